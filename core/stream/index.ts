/** Streams: the envelope of commands and events, versions, and the fold that client and server share. */
export * from './envelope'
export * from './upcast'
export * from './fold'
