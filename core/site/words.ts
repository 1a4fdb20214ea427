/** The words of the energy record, without the schemas: screens load these alone. */
/** Insulation colours a conductor can be recorded with. A colour is a hint and never a role. */
/** What made somebody stop the work. */
export const stopKinds = ['voltage', 'shock', 'hurt', 'fire', 'other'] as const
export type StopKind = (typeof stopKinds)[number]
export const stopWords: Record<StopKind, string> = {
  voltage: 'voltage where none should be',
  shock: 'somebody got a shock',
  hurt: 'somebody is hurt',
  fire: 'smoke or fire',
  other: 'something else',
}

export const conductorColours = [
  'black',
  'red',
  'blue',
  'white',
  'grey',
  'green',
  'green-yellow',
  'bare',
  'brown',
  'yellow',
  'orange',
  'violet',
  'pink',
  'unknown',
] as const
export type ConductorColour = (typeof conductorColours)[number]
export const sourceKinds = ['service', 'generator', 'battery', 'solar', 'secondSupply'] as const
export const breakerRoles = ['main', 'feeder', 'branch'] as const
export const breakerStates = ['closed', 'open', 'tripped', 'unknown'] as const
export type BreakerState = (typeof breakerStates)[number]
/** Why a circuit is energised for a moment while boxes behind it stand open. */
export const energisePurposes = ['identify', 'pairing', 'wiresOut', 'test'] as const
export type EnergisePurpose = (typeof energisePurposes)[number]
export const energiseWords: Record<EnergisePurpose, string> = {
  identify: 'to find the line',
  pairing: 'for a pairing cycle',
  wiresOut: 'to test with the wires out',
  test: 'for a test',
}
/** What shows voltage: a lamp that burns, a non-contact tester that sounds, a meter. */
export const signKinds = ['lightOn', 'tester', 'meter'] as const
export type SignKind = (typeof signKinds)[number]
/** What a dead test may rest on. `boxGround` is a conductor of the box, with its letter. */
export const referenceKinds = ['boxGround', 'wanderLead', 'panelEarth'] as const
export type ReferenceKind = (typeof referenceKinds)[number]
/**
 * Kinds of instrument: meters with a high-impedance range, a low-impedance range or both; a two-pole detector that
 * lights steps; a non-contact tester, which screens and never proves.
 */
export const instrumentKinds = ['high', 'low', 'both', 'twoPole', 'nonContact'] as const
/** Causes of a voltage where none should be, in words. */
export const signCauseWords = {
  leverMoved: 'a lever had been moved',
  secondFeed: 'a second feed, found and opened',
  ghost: 'coupled voltage, dead with low impedance',
  mistyped: 'mistyped; dead with low impedance',
  timer: 'a timer, photocell or relay, now kept off',
  neutralShift: 'the neutral of the supply, shifted against earth',
  testerAtFault: 'the tester is at fault',
  unknown: 'unknown: the {main} and all other sources are opened and tagged',
} as const

/** Ends of a proof that need no facts to be told. */
export const plainEnds = {
  newProof: 'A new proof was started.',
  stricterRules: 'The rules of a proof have become stricter since.',
  lightOn: 'A light was on in a round of openings.',
  voltageSeen: 'A sign of voltage was reported.',
  partedLive: 'An open neutral carries voltage.',
  causeRecorded: 'The cause of a voltage was recorded.',
  doubtClearedLate: 'A doubt was cleared too late.',
  proverLeft: 'The person who proved it, or the licensed witness, left the site.',
  nobodyLicensed: 'No licensed person stands behind this proof any more.',
  feedsChanged: 'The feeds of the box changed.',
  neutralShared: 'A shared neutral was found.',
  otherConductors: 'Other conductors were found in the box.',
  boxCorrected: 'The box was corrected on record: its name, its room or its other switches.',
  laidOut: 'Another feed, source or switch was recorded here.',
  tagHungAgain: 'The tag was hung again.',
  tagTakenOff: 'The person who proved it took a tag off.',
  notCovered: 'Neither conductor of this supply is tied to {ground}: the dead test does not cover that.',
  feedRemoved: 'A feed of its {panel} was taken off the record.',
  boxClosed: 'The box was closed up.',
  boxGuarded: 'The box was capped and guarded.',
} as const
/** Why a proof has ended: a code and the facts to tell it with. */
export type WhyEnded =
  | { code: keyof typeof plainEnds }
  | { code: 'breakerFound'; breakerId: string; state: BreakerState }
  | { code: 'breakerHadBeenClosed' | 'leaveGiven' | 'mayBeClosed'; breakerId: string }
  | { code: 'voltageRead'; a: string; b: string; volts: number; impedance: string }
  | { code: 'workStopped'; what: StopKind }
  | { code: 'absent' | 'tagOverridden' | 'sourceFound' | 'instrumentFailed' | 'sourceFailed'; name: string }
  | { code: 'givenUp'; reason: string }
