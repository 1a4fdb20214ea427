/** What is said and stored of it. */
export * from './add-photo.schema'
export * from './keep-old-switch.schema'
export * from './mark-step.schema'
export * from './clear-doubt.schema'
