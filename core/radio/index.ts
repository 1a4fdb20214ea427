/** Radio inside a home: loss by distance, walls and floors, fitted to what was read here; what that says of each point. */
export * from './path-loss'
export * from './rooms'
export * from './fit'
export * from './verdict'
export * from './channels'
export * from './grid'
export * from './of-home'
