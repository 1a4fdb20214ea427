/** What is said and stored of it. */
export * from './choose-device.schema'
export * from './unchoose-device.schema'
export * from './record-unit.schema'
export * from './check-code.schema'
export * from './record-pairing.schema'
export * from './name-unit.schema'
export * from './fit-battery.schema'
export * from './follow-return.schema'
