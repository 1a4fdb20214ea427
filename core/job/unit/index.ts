/** Devices: chosen, recorded, joined, named. */
export * from './choose-device'
export * from './unchoose-device'
export * from './record-unit'
export * from './check-code'
export * from './record-pairing'
export * from './name-unit'
