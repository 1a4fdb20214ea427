/** What the job is about: its points and boxes, as the crew finds them. */
export * from './record-point'
export * from './retire-point'
export * from './take-in-box'
export * from './mark-letters'
export * from './merge-boxes'
export * from './split-box'
