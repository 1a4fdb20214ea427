/** The home as it is on record: sources, panels, breakers, boxes, what feeds what, conductors. */
export * from './lay-out'
export * from './set-feeds'
export * from './tie-neutrals'
export * from './record-conductors'
export * from './record-source'
export * from './record-source-point'
export * from './rule-out-source'
