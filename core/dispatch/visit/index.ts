/** Inside a visit: in which order, whether to begin, and when it is enough for today. */
export * from './order'
export * from './work'
export * from './offs'
export * from './door'
export * from './enough'
