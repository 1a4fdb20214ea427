/** Joining devices to a network: windows that burn down, which first, and what to try when one does not join. */
export * from './order'
export * from './tree'
export * from './window'
export * from './words'
