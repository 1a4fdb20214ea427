import { isEarthMarked, type SchemeId } from '../units'
import { boxesBehind } from './feeds'
import { judgeReading, shiftToleranceVolts, referenceNeutralBelowVolts, deadBelowVolts } from './reading'
import type { Conductor, FarPosition, ReferenceSeen } from './parts.schema'
import type { BoxState, Proof, Reading, SiteState } from './state'

/** The far end of every reading against the proven reference. */
export const REFERENCE = 'REF'
/** The second earth, where the reference was seen good by continuity with one. */
export const SECOND_EARTH = 'REF2'

export interface RequiredPair {
  a: string
  b: string
  position: FarPosition
}

export interface PairStatus extends RequiredPair {
  /** dead: settled · shift: settled as a neutral shift · repeatLow: voltage shown, low impedance wanted · missing: no reading yet. */
  status: 'dead' | 'shift' | 'repeatLow' | 'missing'
}
export const isSettled = (pair: PairStatus): boolean => pair.status === 'dead' || pair.status === 'shift'

/** A box by its name, with its room where another box has the same name. */
export function boxName(site: SiteState, box: BoxState): string {
  const twin = site.boxOrder.some((id) => id !== box.id && site.boxes[id]!.name.toLowerCase() === box.name.toLowerCase())
  const room = site.rooms[box.roomId]?.name
  return twin && room ? `${box.name} (${room})` : box.name
}

/** A position of the far switches in words. */
export const positionText = (site: SiteState, position: FarPosition): string =>
  position.map(({ boxId, side }) => `${site.boxes[boxId] ? boxName(site, site.boxes[boxId]) : 'other switch'} ${side}`).join(', ')

const positionKey = (position: FarPosition): string =>
  position
    .map(({ boxId, side }) => `${boxId} ${side}`)
    .sort()
    .join()

/** Switch positions of the far control locations in which every conductor is read. One empty position when there are none. */
export function farPositions(box: Pick<BoxState, 'farBoxIds'>): FarPosition[] {
  return box.farBoxIds.reduce<FarPosition[]>(
    (positions, boxId) => positions.flatMap((before) => (['up', 'down'] as const).map((side) => [...before, { boxId, side }])),
    [[]],
  )
}

/** Insulation that marks the neutral: NEC 200.6; IEC 60445. It only picks the middle of the second star. */
const neutralMarks: Record<SchemeId, readonly string[]> = { na120: ['white', 'grey'], iec230: ['blue'] }

/**
 * Readings of the conductors among themselves: each against the box's own neutral or ground; a ring through all where
 * there is neither. With the readings against the reference it shows every voltage between any two of them.
 */
function secondStar(conductors: Conductor[], schemeId: SchemeId): [string, string][] {
  const middle =
    conductors.find((one) => neutralMarks[schemeId].includes(one.colour)) ?? conductors.find((one) => isEarthMarked(one.colour))
  const letters = conductors.map((one) => one.letter)
  if (middle) return letters.filter((one) => one !== middle.letter).map((one) => [one, middle.letter])
  if (letters.length < 3) return letters.length === 2 ? [[letters[0]!, letters[1]!]] : []
  return letters.map((one, index) => [one, letters[(index + 1) % letters.length]!])
}
const everyTwo = (letters: string[]): [string, string][] =>
  letters.flatMap((one, index) => letters.slice(index + 1).map((other): [string, string] => [one, other]))

/**
 * Every conductor against the reference in each position of the far switches, then the second star in the last one.
 * With `everyPair`, or two earths for a reference, every pair in each position. The box's own switch needs no position:
 * the conductors on both its sides are read.
 */
export function requiredPairs(site: SiteState, box: BoxState, proof: Pick<Proof, 'reference' | 'everyPair'>): RequiredPair[] {
  const { reference } = proof
  const shown = box.conductors.filter((one) => one.letter !== reference?.letter)
  const letters = shown.map((one) => one.letter)
  const twoEarths = reference?.seen.kind === 'twoEarths'
  const positions = farPositions(box)
  return positions.flatMap((position, index) => {
    const among = proof.everyPair || twoEarths ? everyTwo(letters) : index === positions.length - 1 ? secondStar(shown, site.schemeId) : []
    return [
      ...letters.map((letter) => [letter, REFERENCE] as const),
      ...(twoEarths ? letters.map((letter) => [letter, SECOND_EARTH] as const) : []),
      ...among,
    ].map(([a, b]) => ({ a, b, position }))
  })
}

type Ends = Pick<RequiredPair, 'a' | 'b'>
export const sameEnds = (x: Ends, y: Ends): boolean => (x.a === y.a && x.b === y.b) || (x.a === y.b && x.b === y.a)
export function samePair(x: RequiredPair, y: RequiredPair): boolean {
  return sameEnds(x, y) && positionKey(x.position) === positionKey(y.position)
}

/**
 * Is this what the neutral of the supply reads, and no voltage against that neutral? Then it is the neutral of a loaded
 * feeder, shifted against earth, and no feed. At a live point it has to be what was read there in the beginning too.
 */
export function isNeutralShift(seen: ReferenceSeen, volts: number, neutral: { toReference: number; toConductor: number } | null): boolean {
  if (neutral === null || neutral.toConductor >= deadBelowVolts || volts > referenceNeutralBelowVolts) return false
  const near = (other: number) => Math.abs(volts - other) <= shiftToleranceVolts
  return near(neutral.toReference) && (seen.kind !== 'livePoint' || near(seen.referenceToNeutral))
}

/** What a row of readings of one pair says: voltage by high impedance is cleared only by low impedance or a two-pole detector. */
function settledBy(readings: Pick<Reading, 'volts' | 'impedance' | 'verdict'>[]): PairStatus['status'] {
  return readings.reduce<PairStatus['status']>((status, reading) => {
    if (reading.verdict === 'neutralShift') return 'shift'
    if (judgeReading(reading.volts, reading.impedance).verdict !== 'dead') return 'repeatLow'
    return status === 'repeatLow' && reading.impedance === 'high' ? 'repeatLow' : 'dead'
  }, 'missing')
}

export function pairStatuses(site: SiteState, box: BoxState, proof: Proof): PairStatus[] {
  return requiredPairs(site, box, proof).map((pair) => ({
    ...pair,
    status: settledBy(proof.readings.filter((reading) => samePair(reading, pair))),
  }))
}

/** What a proof that is being made waits for. */
export type ProofStage = 'reference' | 'readings' | 'referenceAgain' | 'tester' | 'recheck'
export function proofStage(site: SiteState, box: BoxState, proof: Proof): ProofStage {
  if (proof.recheckVolts !== null) return 'recheck'
  if (!proof.reference) return 'reference'
  if (!pairStatuses(site, box, proof).every(isSettled)) return 'readings'
  return proof.referenceSeenAgain ? 'tester' : 'referenceAgain'
}

/** Proofs that live or are being made in one of these boxes. */
export function proofsIn(site: SiteState, boxes: Iterable<BoxState>): Proof[] {
  const ids = new Set([...boxes].map((box) => box.id))
  return Object.values(site.proofs).filter((proof) => proof.status !== 'void' && ids.has(proof.boxId))
}

export function proofsBehind(site: SiteState, breakerId: string): Proof[] {
  return proofsIn(site, boxesBehind(site, breakerId))
}

/** Who made a proof or witnessed it. */
export const peopleOf = (proof: Proof): { personId: string; name: string; initials: string }[] => [proof, ...proof.witnesses]

/** Everybody who relies on one of these proofs. */
export const relyingOn = (proofs: Proof[]): string[] => [...new Set(proofs.flatMap(peopleOf).map((person) => person.personId))]

export const plateIsOff = (box: BoxState): boolean => box.closure === 'opened' || box.closure === 'looking'

/** Whoever said that a box is open and has not left: their hands may be there. */
export const openersOf = (site: SiteState, box: BoxState): string[] =>
  plateIsOff(box) ? Object.keys(box.openWords).filter((personId) => personId in site.onSite) : []

/** The people a sign of voltage must reach at once: provers, witnesses, whoever opened a box, owners of tags on the way. */
export function peopleAtRisk(site: SiteState, boxes: BoxState[], breakerIds: string[]): string[] {
  const tagged = Object.values(site.tags).filter((tag) => !tag.company && breakerIds.includes(tag.breakerId))
  return [
    ...new Set([
      ...relyingOn(proofsIn(site, boxes)),
      ...boxes.flatMap((box) => openersOf(site, box)),
      ...tagged.map((tag) => tag.personId),
    ]),
  ]
}

/** A sign of voltage that reaches this box and whose cause nobody has recorded: nothing is proven here before. */
export const unexplainedSign = (site: SiteState, boxId: string) => Object.values(site.signs).find((sign) => sign.reached.includes(boxId))

/** A proof in suspense waits for a low-impedance reading somewhere else; nobody relies on it meanwhile. */
export const suspenseOn = (site: SiteState, proofId: string) => Object.values(site.signs).find((sign) => sign.suspends.includes(proofId))

/** Does the instrument of this proof show steps (a two-pole detector) instead of volts? */
export const isStepDisplay = (proof: Pick<Proof, 'instrument'>): boolean => proof.instrument.kind === 'twoPole'
