/** Planning a day: who goes where in which order, and what that keeps and costs. */
export * from './day'
export * from './timing'
export * from './search'
export * from './by-hand'
export * from './check'
export * from './many-days'
export * from './offers'
export * from './changes'
