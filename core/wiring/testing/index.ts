export * from './plan-trials'
export * from './run-trials'
export { makeTrialBox } from './strange-homes'
export { makeWiderBox } from './wider-homes'
