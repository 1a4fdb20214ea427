/** What the household wants, and what was agreed with it. */
export * from './wish-point'
export * from './describe-household'
export * from './sell-plan'
