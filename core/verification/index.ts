/** Verification of circuits of a 230 V supply, after IEC 60364-6. */
export * from './words'
export type { CircuitReadings } from './circuit.schema'
export * from './judge'
