/** Names in one home: what one phrase moves, which names are too near to each other, and better ones for all of them at once. */
export * from './clashes'
export * from './habits'
export * from './labels'
export * from './propose'
export * from './risks'
export * from './sounds'
export * from './spoken'
