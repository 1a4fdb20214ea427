/** What is said and stored of it. */
export * from './tick-handover.schema'
export * from './sign-handover.schema'
export * from './complete-handover.schema'
