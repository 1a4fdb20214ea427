/** Functional tests and what is left open. */
export * from './test-point'
export * from './list-defect'
export * from './settle-defect'
