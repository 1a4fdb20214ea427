/** What the home does by itself: schedules, rules, sensors, what devices do on their own, and how the house is lived in. */
export * from './set-routine'
export * from './drop-routine'
export * from './set-behaviour'
export * from './set-habits'
export * from './set-sensor'
export * from './drop-sensor'
export * from './keep-baseline'
export * from './check-alert'
