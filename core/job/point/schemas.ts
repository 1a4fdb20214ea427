/** What is said and stored of it. */
export * from './record-point.schema'
export * from './retire-point.schema'
export * from './take-in-box.schema'
export * from './mark-letters.schema'
export * from './merge-boxes.schema'
export * from './split-box.schema'
