/** Dispatch: how long visits take, how one gets there, who goes where. */
export * from './work'
export * from './duration'
export * from './travel'
export * from './plan'
export * from './away'
export * from './board'
export * from './promise'
export * from './visit'
