/** What is said and stored of it. */
export * from './test-point.schema'
export * from './test-wires-out.schema'
export * from './list-defect.schema'
export * from './settle-defect.schema'
