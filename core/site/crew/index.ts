/** Who is there, who works alone, who is gone. */
export * from './declare-absent'
export * from './withdraw-absent'
export * from './confirm-absent'
export * from './note-person'
export * from './start-lone-work'
export * from './check-in'
export * from './end-lone-work'
export * from './leave-site'
