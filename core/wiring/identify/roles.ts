/** What a conductor is in this box, told by where its other end goes. */
export const wireRoles = ['line', 'neutral', 'ground', 'load', 'neutralOn', 'lineOn', 'traveler', 'farCommon', 'spare'] as const
export type WireRole = (typeof wireRoles)[number]

export const wireRoleWords: Record<WireRole, string> = {
  line: 'line',
  neutral: 'neutral, from the panel',
  ground: 'ground',
  load: 'load, to the light',
  neutralOn: 'neutral, onward',
  lineOn: 'line, onward',
  traveler: 'traveler',
  farCommon: 'common of the other switch',
  spare: 'spare',
}
export const wireRoleShort: Record<WireRole, string> = {
  line: 'line',
  neutral: 'neutral',
  ground: 'ground',
  load: 'load',
  neutralOn: 'neutral on',
  lineOn: 'line on',
  traveler: 'traveler',
  farCommon: 'far common',
  spare: 'spare',
}

/** Where a cable goes. */
export const courses = [
  'feed',
  'sharedFeed',
  'light',
  'twoLights',
  'loop',
  'loopWithNeutral',
  'doubleLoop',
  'onward',
  'farReturn',
  'farLight',
  'farFeed',
  'farFeedAndLight',
  'farLineAndLight',
  'farTravelersToLight',
  'farTravelersFromFeed',
  'farOlder',
  'spare',
] as const
export type Course = (typeof courses)[number]
