/** What is said and stored of it. */
export * from './move-part.schema'
