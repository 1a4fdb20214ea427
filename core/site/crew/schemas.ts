/** What is said and stored of it. */
export * from './declare-absent.schema'
export * from './withdraw-absent.schema'
export * from './confirm-absent.schema'
export * from './note-person.schema'
export * from './start-solo.schema'
export * from './check-in.schema'
export * from './end-solo.schema'
export * from './leave-site.schema'
