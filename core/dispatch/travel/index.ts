/** Travel: roads with a clock, places on them, the quickest way between two doors. */
export * from './road-map.schema'
export * from './roads'
export * from './timetable'
export * from './place'
export * from './paths'
export * from './matrix'
export * from './address'
