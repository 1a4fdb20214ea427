/** The link: devices of the open home standard, driven and read back from the home’s own network. */
export * from './device-link'
export * from './words'
export * from './checks'
export type { LinkAnswer, LinkTask, LinkWork, MeterTrace } from './device-link.schema'
