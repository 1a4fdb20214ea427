import type { WiringPlan } from './plan-schema'

/** Terminals an old switch may have. */
export const oldTerminals = ['a', 'b', 'common', 't1', 't2', 'a1', 'a2', 'b1', 'b2'] as const
/** What may become of another location: its 3-way stays; a plain switch that is listened to; a wired companion; nothing in the wiring; or the device that carries the load sits there. */
export const otherLocations = ['asItWas', 'sensed', 'companion', 'through', 'partner'] as const
export type OtherLocation = (typeof otherLocations)[number]
export const otherLocationWords: Record<OtherLocation, string> = {
  asItWas: 'its 3-way stays as it is',
  sensed: 'plain switch, heard here',
  companion: 'companion, wired',
  through: 'spliced through: companion without wires, or none',
  partner: 'the device with the load is there',
}
/** A plan with nothing laid. Plans stored before a part was added are completed with it. */
export const emptyPlan: WiringPlan = {
  devices: [],
  splices: [],
  capped: [],
  kept: [],
  jumpers: [],
  elsewhere: [],
  fixtureRelays: [],
  feeds: [],
}

/** A device and an old switch that stays, as parts of the home. */
export const deviceId = (gang: number) => `gang${gang}`
export const oldSwitchId = (old: number) => `old${old}`
