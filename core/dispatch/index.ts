/** Dispatch: how long visits take. */
export * from './work'
export * from './duration'
