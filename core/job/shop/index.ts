/** Devices that are looked at, updated, set and lamp-tested before they go out. */
export * from './prepare-unit'
