/** Circuits measured after work on them, and the permit with its inspection. */
export * from './verify-circuit'
export * from './note-permit'
