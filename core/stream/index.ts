/** Streams: the envelope of commands and events, versions, and the fold that client and server share. */
export * from './words'
export * from './envelope'
export * from './command-envelope'
export * from './pin'
export * from './plain-errors'
export * from './upcast'
export * from './fold'
