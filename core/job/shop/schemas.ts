/** What is said and stored of it. */
export * from './prepare-unit.schema'
