/** The list, the signature, the end. */
export * from './tick-handover'
export * from './sign-handover'
export * from './complete-handover'
export * from './note-member'
export * from './register-warranty'
