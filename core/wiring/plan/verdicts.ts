import type { HomeSolution, Light } from '../home'
import type { AsFoundBox } from '../identify/found-box'
import type { PlanWire } from './other-locations'
import type { KnownCable } from './outside'
import type { PlannedDevice, PlannedHome, WiringPlan } from './plan'
import type { Actuator, Rows } from './positions'
import type { RuleName } from './rules'
import type { PredictedSeen } from './seen'

export const verdictCodes = [
  'works',
  'deadInState',
  'alwaysOn',
  'glowsWhenOff',
  'nobodySwitches',
  'noPower',
  'lineLoadSwapped',
  'short',
  'trips',
  'neutralOfOther',
  'circuitsTied',
  'groundAsNeutral',
  'leftBare',
  'outsideListing',
  'listingUnknown',
  'didNotSettle',
  'heard',
  'notHeard',
  'dryInputLive',
  'wrongChannel',
  'overChannel',
  'staysLive',
  'olderWay',
  'shellLive',
  'lineAsNeutral',
  'groundMissing',
  'groundOnOther',
  'noGround',
  'groundThroughDevice',
  'onwardDead',
  'onwardOneLine',
  'movesNothing',
  'travelerLoose',
  'returnElsewhere',
  'sharedNeutral',
  'sharedOneLeg',
  'legsUnread',
  'openTogether',
  'neutralThroughDevice',
  'twoPole',
  'locationLost',
  'remark',
] as const
export type VerdictCode = (typeof verdictCodes)[number]
export interface Verdict {
  code: VerdictCode
  severity: 'good' | 'warn' | 'block'
  text: string
  /** The named rule behind it. */
  rule?: RuleName
}
export type Say = (severity: Verdict['severity'], code: Verdict['code'], text: string, rule?: RuleName) => void

/** One line of the table of functional tests: how everything stands, and what each light then does. */
export interface Prediction extends PredictedSeen {
  words: string
  /** What devices that measure should show, watts. */
  metered: { gang: number; watts: number }[]
}
/** One state of the home, solved; its lights as they would be if no breaker tripped. */
export interface SolvedRow {
  positions: Record<string, number>
  lights: Record<string, Light>
  home: HomeSolution
}

/** A plan with every state of it solved: what the checks look at, and where they say what they found. */
export interface Judged {
  found: AsFoundBox
  cables: KnownCable[]
  plan: WiringPlan
  home: PlannedHome
  /** Conductors with the roles the plan gives them. */
  wires: PlanWire[]
  rows: Rows<SolvedRow>
  actuators: Actuator[]
  /** Switches that move no light by themselves: heard by a device, or for nothing. */
  idle: Actuator[]
  /** Does this hand move this light in any state? */
  moves: (hand: Actuator, lightId: string) => boolean
  say: Say
}
export const nameOfDevice = (home: PlannedHome, device: PlannedDevice) => (home.devices.length > 1 ? `Gang ${device.gang}` : 'The device')
