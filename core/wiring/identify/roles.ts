/** What a conductor is in this box, told by where its other end goes. */
export const wireRoles = [
  'line',
  'neutral',
  'sharedNeutral',
  'ground',
  'load',
  'neutralOn',
  'lineOn',
  'traveler',
  'farCommon',
  'loadOn',
  'spare',
] as const
export type WireRole = (typeof wireRoles)[number]

export const wireRoleWords: Record<WireRole, string> = {
  line: 'line',
  neutral: 'neutral, from the {panel}',
  sharedNeutral: 'neutral shared by two circuits, from the {panel}',
  ground: '{ground}',
  load: 'load, to the light',
  neutralOn: 'neutral, onward',
  lineOn: 'line, onward',
  traveler: '{traveler}',
  farCommon: 'common of the other switch',
  loadOn: 'switched, from the other switch',
  spare: 'spare',
}
export const wireRoleShort: Record<WireRole, string> = {
  line: 'line',
  neutral: 'neutral',
  sharedNeutral: 'shared neutral',
  ground: '{ground}',
  load: 'load',
  neutralOn: 'neutral on',
  lineOn: 'line on',
  traveler: '{traveler}',
  farCommon: 'far common',
  loadOn: 'switched on',
  spare: 'spare',
}

/** A neutral that comes from the panel, its own circuit's or shared by two. */
export const isNeutral = (role: string): boolean => role === 'neutral' || role === 'sharedNeutral'

/** Where a cable goes. */
export const runKinds = [
  'feed',
  'sharedFeed',
  'twoPoleFeed',
  'light',
  'twoLights',
  'twoPoleLoad',
  'loop',
  'loopWithNeutral',
  'doubleLoop',
  'onward',
  'sharedOnward',
  'onwardAndLight',
  'farReturn',
  'farLight',
  'farFeed',
  'farFeedAndLight',
  'farLineAndLight',
  'farTravelersToLight',
  'farTravelersFromFeed',
  'farStraps',
  'farStrapsEnd',
  'farCarter',
  'spare',
] as const
export type RunKind = (typeof runKinds)[number]

/** In place of the number of another switch: a 4-way and the 3-way behind it, which pick a traveler together. */
export const wholeChain = 2
