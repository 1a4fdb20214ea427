/**
 * The wiring of a box and of what it reaches. One electrical model, three questions: what are these conductors (identify),
 * will this wiring work and be safe (plan, verify), which fault explains what is seen (diagnose).
 */
export * from './identify/found-box'
export * from './identify/identify'
export * from './identify/next-test'
export * from './identify/roles'
export * from './plan/connection-list'
export * from './plan/diagnose'
export * from './plan/edit'
export * from './plan/elsewhere'
export * from './plan/outside'
export * from './plan/positions'
export * from './plan/plan'
export * from './plan/probe'
export * from './plan/seen'
export * from './plan/tested'
export * from './plan/verdicts'
export * from './plan/verify'
export * from './terminal-model'
export { continuityMeter, solveHome, type HomeSolution, type Light } from './home'
export { switchTerminals, type Fault, type Wiring } from './model'
