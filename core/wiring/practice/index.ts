/** Practice: boxes with hidden wiring, the simulated meter, and the moment the breaker is closed. */
export * from './boxes'
export * from './try-out'
