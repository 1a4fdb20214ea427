/** What is said and stored of it. */
export * from './declare-absent.schema'
export * from './withdraw-absent.schema'
export * from './confirm-absent.schema'
export * from './note-person.schema'
export * from './start-lone-work.schema'
export * from './check-in.schema'
export * from './end-lone-work.schema'
export * from './leave-site.schema'
