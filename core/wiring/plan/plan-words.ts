import type { WiringPlan } from './plan-schema'
import type { otherLocations } from './plan-terms'

export * from './plan-terms'

export type OtherLocation = (typeof otherLocations)[number]
export const otherLocationWords: Record<OtherLocation, string> = {
  asItWas: 'its {3-way} stays as it is',
  sensed: 'plain switch, seen by an input here',
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
