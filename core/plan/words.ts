/** Ways to solve a point, in the order in which they are weighed. */
export const solutionKinds = [
  'withNeutral',
  'noNeutral',
  'batteryCompanion',
  'relayAtFixture',
  'channelModule',
  'meteringRelay',
  'fanAndLight',
  'smartLamps',
  'plugIn',
  'pullNeutral',
  'leave',
] as const
export type SolutionKind = (typeof solutionKinds)[number]
export const solutionWords: Record<SolutionKind, string> = {
  withNeutral: 'smart switch or dimmer',
  noNeutral: 'device without neutral, on a hub',
  batteryCompanion: 'smart device with a battery companion',
  relayAtFixture: 'relay at the fixture',
  channelModule: 'module behind the old switches',
  meteringRelay: 'metering relay',
  fanAndLight: 'fan and light control',
  smartLamps: 'smart lamps',
  plugIn: 'plug-in or lamp-holder module',
  pullNeutral: 'pull a neutral',
  leave: 'leave it as it is',
}
/** Colour of light that people want in a room, or that a lamp gives. */
export const lightColours = ['warm', 'neutral', 'cool', 'changing'] as const
export type LightColour = (typeof lightColours)[number]
export const lightColourWords: Record<LightColour, string> = {
  warm: 'warm white',
  neutral: 'neutral white',
  cool: 'cool white',
  changing: 'any colour',
}
/** What a solution still does with the internet down; its subject stands before it. */
export const offlineWords = {
  wall: 'works from the wall without internet',
  remote: 'works from its remote without internet',
  nothing: 'does nothing without internet',
} as const

/** How the schools of the trade weigh. */
export const schoolIds = ['switches', 'lamps', 'hubDimmers', 'fixtureRelays', 'leastMoney', 'mostComfort'] as const
export type SchoolId = (typeof schoolIds)[number]
export const schoolWords: Record<SchoolId, string> = {
  switches: 'switches wherever possible',
  lamps: 'lamps for rentals and old boxes',
  hubDimmers: 'hub devices where there is no neutral',
  fixtureRelays: 'relays at the fixture',
  leastMoney: 'least money now',
  mostComfort: 'most comfort',
}
