/** What is still unknown of a home, what that says already, and what is worth looking at next. */
export * from './cables'
export * from './neutral-prior'
export * from './unknowns'
export * from './verdict'
export * from './worth-opening'
export * from './like-last'
export * from './usual-names'
