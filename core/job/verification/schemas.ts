/** What is said and stored of it. */
export * from './verify-circuit.schema'
export * from './note-permit.schema'
