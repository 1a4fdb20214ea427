/** Connecting: what a colour suggests, how a role is established, and the steps in the company's order. */
export * from './colour'
export * from './steps'
export * from './cable-shapes'
export * from './insulation'
