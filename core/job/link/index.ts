/** Devices that the link reaches: joined, tested, named and left by it. Nobody gives these commands by hand. */
export * from './link-unit'
export * from './note-link-fault'
export * from './record-link-checks'
export * from './note-device-name'
export * from './note-homes'
export * from './note-opened'
export * from './unlink-unit'
