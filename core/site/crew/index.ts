/** Who is there, who works alone, who is gone. */
export * from './declare-absent'
export * from './withdraw-absent'
export * from './confirm-absent'
export * from './note-person'
export * from './start-solo'
export * from './check-in'
export * from './end-solo'
export * from './leave-site'
