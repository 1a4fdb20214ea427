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

export const courseWords: Record<Course, string> = {
  feed: 'the panel: line and neutral come in here',
  sharedFeed: 'the panel: two lines with one shared neutral',
  light: 'a light that is switched here',
  twoLights: 'two lights, or a fan and its light, switched here',
  loop: 'a light that is fed up there: a switch loop',
  loopWithNeutral: 'a light that is fed up there: a switch loop with its neutral',
  doubleLoop: 'two lights that are fed elsewhere: a loop for two switches',
  onward: 'more of the circuit, such as a socket',
  farReturn: 'the other 3-way switch, whose common comes back',
  farLight: 'the other 3-way switch, with the light behind it',
  farFeed: 'the other 3-way switch, with the feed behind it',
  farFeedAndLight: 'the other 3-way switch, with feed and light behind it',
  farLineAndLight: 'the other 3-way switch, and the line comes along',
  farTravelersToLight: 'the other 3-way switch, with the light behind it; travelers only',
  farTravelersFromFeed: 'the other 3-way switch, with the feed behind it; travelers only',
  farOlder: 'the other switch of an older arrangement: line and neutral are switched',
  spare: 'nowhere: spare',
}
