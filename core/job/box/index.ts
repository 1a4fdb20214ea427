/** What is done in a box: pictures, steps, what stays. */
export * from './add-photo'
export * from './keep-old-switch'
export * from './mark-step'
export * from './clear-doubt'
