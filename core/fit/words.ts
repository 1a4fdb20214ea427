/** The words of device models, without the schema: screens load these alone. */
export const terminalKeys = [
  'line',
  'load',
  'neutral',
  'ground',
  'common',
  'traveler1',
  'traveler2',
  'sense',
  'load2',
  'fan',
  'sense2',
  'senseReturn',
] as const
export type TerminalKey = (typeof terminalKeys)[number]
export const deviceKinds = ['switch', 'dimmer', 'fanControl', 'companion', 'relayModule', 'sender'] as const
export const loadTechnologies = ['led', 'filament', 'fan', 'motor', 'socket'] as const
export type LoadTechnology = (typeof loadTechnologies)[number]
