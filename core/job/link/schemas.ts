/** What is said and stored of it. */
export * from './link-unit.schema'
export * from './note-link-fault.schema'
export * from './record-link-checks.schema'
export * from './note-device-name.schema'
export * from './note-homes.schema'
export * from './note-opened.schema'
export * from './unlink-unit.schema'
