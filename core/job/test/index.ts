/** Functional tests and what is left open. */
export * from './test-point'
export * from './test-wires-out'
export * from './list-defect'
export * from './settle-defect'
