/** What is said and stored of it. */
export * from './tick-handover.schema'
export * from './sign-handover.schema'
export * from './complete-handover.schema'
export * from './note-member.schema'
export * from './register-warranty.schema'
