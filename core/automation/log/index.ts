/** What an app or a hub wrote down of its switchings, held against what the home does by itself. */
export * from './read'
export * from './explain'
export * from './words'
