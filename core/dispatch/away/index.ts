/** Who does not work, and when. */
export * from './away'
