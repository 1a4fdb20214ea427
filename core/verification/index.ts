/** Verification of circuits of a 230 V supply, after IEC 60364-6. */
export * from './circuit.schema'
export * from './judge'
