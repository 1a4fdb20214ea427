/** A callback while the customer is on the telephone: causes by what is said, by this home and by the company’s record; what to ask next. */
export * from './causes'
export * from './questions'
export * from './numbers'
export * from './belief'
export * from './triage'
export * from './at-work'
export * from './facts'
