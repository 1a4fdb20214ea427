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
/** How a device takes its conductors. */
export const terminationKinds = ['screw', 'clamp', 'pushIn', 'leads'] as const
export type TerminationKind = (typeof terminationKinds)[number]
export const terminationWords: Record<TerminationKind, string> = {
  screw: 'screws',
  clamp: 'clamps',
  pushIn: 'push-in',
  leads: 'flying leads',
}
/** What a device joins: its own reach decides where it works. */
export const radioKinds = ['unknown', 'none', 'wifi', 'mesh', 'hub'] as const
export const radioWords: Record<(typeof radioKinds)[number], string> = {
  unknown: 'not on record',
  none: 'no radio',
  wifi: 'Wi-Fi, 2.4 GHz',
  mesh: 'mesh',
  hub: 'its own hub',
}
/** How a device is started anew, so that its pairing window opens again. */
export const restartWays = ['unknown', 'itself', 'breaker'] as const
export const restartWayWords: Record<(typeof restartWays)[number], string> = {
  unknown: 'not on record',
  itself: 'by itself',
  breaker: 'by its {breaker} only',
}
/** What a hand does at a wall control, and what comes of it: of each model as its maker says. */
export const gestures = ['press', 'pressTop', 'pressBottom', 'pressTwice', 'hold', 'holdTop', 'holdBottom', 'flip', 'slide'] as const
export type Gesture = (typeof gestures)[number]
export const gestureWords: Record<Gesture, string> = {
  press: 'press',
  pressTop: 'press the top',
  pressBottom: 'press the bottom',
  pressTwice: 'press twice',
  hold: 'hold',
  holdTop: 'hold the top',
  holdBottom: 'hold the bottom',
  flip: 'flip it',
  slide: 'slide along it',
}
export const gestureEffects = ['on', 'off', 'onOff', 'brighter', 'darker', 'dims', 'full', 'faster', 'slower', 'fan'] as const
export type GestureEffect = (typeof gestureEffects)[number]
export const gestureEffectWords: Record<GestureEffect, string> = {
  on: 'on',
  off: 'off',
  onOff: 'on or off',
  brighter: 'brighter',
  darker: 'darker',
  dims: 'brighter, then darker',
  full: 'full light',
  faster: 'fan faster',
  slower: 'fan slower',
  fan: 'fan on or off',
}
export const loadTechnologies = ['led', 'filament', 'fan', 'motor', 'socket'] as const
export type LoadTechnology = (typeof loadTechnologies)[number]
