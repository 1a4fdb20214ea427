import { pairingCauses, pairingSteps, type Observation, type PairingCause, type PairingStep } from './words'

/**
 * Why a device does not join, and what to try next. Causes are weighed by what is usual, by the company's own record, by what is
 * known of this home and by what was seen; steps are ranked by how likely each helps, for each minute it takes. With tests that
 * either help or do not, trying by chance per minute is the order with the least expected time (Mitten 1960, "An analytic solution
 * to the least cost testing sequence problem").
 */
export type CauseWeights = Record<PairingCause, number>
export type RadioOfPairing = 'wifi' | 'mesh' | 'hub'

/**
 * What is usual. The order by which people look (band, password, mode, again, own network, nearer, another device) is the trade's;
 * the shares are common practice, no source, and give way to the company's record.
 */
const usual: Record<RadioOfPairing, Partial<CauseWeights>> = {
  wifi: {
    ...{ wrongBand: 26, wrongPassword: 20, notInMode: 18, windowOver: 10, weakSignal: 8, isolated: 4, bound: 4, wrongRegion: 3 },
    ...{ noPower: 3, defect: 4 },
  },
  mesh: {
    ...{ notInMode: 28, windowOver: 16, hubAway: 14, weakSignal: 14, hubFull: 6, bound: 9, wrongRegion: 2, noPower: 3, defect: 8 },
  },
  hub: {
    ...{ notInMode: 26, hubAway: 20, windowOver: 14, weakSignal: 12, hubFull: 8, bound: 6, wrongRegion: 3, noPower: 3, defect: 8 },
  },
}
const zero = (): CauseWeights => Object.fromEntries(pairingCauses.map((cause) => [cause, 0])) as CauseWeights
const normal = (weights: CauseWeights): CauseWeights => {
  const sum = pairingCauses.reduce((total, cause) => total + weights[cause], 0)
  return Object.fromEntries(pairingCauses.map((cause) => [cause, sum > 0 ? weights[cause] / sum : 0])) as CauseWeights
}
export const usualCauses = (radio: RadioOfPairing): CauseWeights => normal({ ...zero(), ...usual[radio] })

/** How often a step ends a cause, where that is the cause. Common practice, no source. */
const helps: Record<PairingStep, Partial<CauseWeights>> = {
  lookAtPower: { noPower: 0.9 },
  gesture: { notInMode: 0.85 },
  restart: { windowOver: 0.95, notInMode: 0.3 },
  powerCycle: { windowOver: 0.97, notInMode: 0.3 },
  band: { wrongBand: 0.9 },
  password: { wrongPassword: 0.9 },
  hub: { hubAway: 0.85, hubFull: 0.7 },
  accessPoint: { wrongBand: 0.7, isolated: 0.6, notInMode: 0.2 },
  closer: { weakSignal: 0.7 },
  reset: { bound: 0.85, notInMode: 0.4, windowOver: 0.6 },
  region: { wrongRegion: 0.85 },
  replace: { defect: 0.97, bound: 0.9 },
}
/** Minutes a step takes, with the two of patience after it. Common practice, no source. */
export const stepMinutes: Record<PairingStep, number> = {
  ...{ lookAtPower: 1, gesture: 3, restart: 3, powerCycle: 8, band: 4, password: 3.5, hub: 4, accessPoint: 7, closer: 7, reset: 5 },
  ...{ region: 6, replace: 30 },
}

/** How likely something is seen under a cause; what is not named here is seen by mistake only. */
const slip = 0.04
const seenUnder: Record<Observation, Partial<CauseWeights>> = {
  dark: { noPower: 0.9, defect: 0.5, windowOver: 0.3 },
  idle: { windowOver: 0.9, notInMode: 0.5, bound: 0.2, noPower: 0.3, defect: 0.2 },
  waiting: { wrongBand: 0.5, isolated: 0.4, wrongRegion: 0.3, hubAway: 0.4, weakSignal: 0.3, wrongPassword: 0.1, hubFull: 0.2 },
  joining: { wrongPassword: 0.4, weakSignal: 0.6, wrongBand: 0.3, isolated: 0.4, hubFull: 0.3, defect: 0.2 },
  refused: { wrongPassword: 0.8, wrongBand: 0.3, isolated: 0.2 },
  noHub: { hubAway: 0.85, weakSignal: 0.4, hubFull: 0.1 },
  bound: { bound: 0.95 },
  fault: { defect: 0.9 },
  appFindsNothing: {
    notInMode: 0.6,
    windowOver: 0.6,
    wrongBand: 0.5,
    noPower: 0.6,
    weakSignal: 0.3,
    isolated: 0.4,
    defect: 0.5,
    hubAway: 0.5,
  },
  appPassword: { wrongPassword: 0.9 },
  appHubFull: { hubFull: 0.95 },
  appOtherOwner: { bound: 0.95 },
  appRegion: { wrongRegion: 0.95 },
  timeout: {
    wrongBand: 0.5,
    wrongPassword: 0.4,
    weakSignal: 0.5,
    isolated: 0.5,
    hubAway: 0.4,
    hubFull: 0.3,
    wrongRegion: 0.3,
    defect: 0.3,
    notInMode: 0.3,
    windowOver: 0.3,
    bound: 0.3,
    noPower: 0.2,
  },
}

/** A device that was seen to wait has power, and is in its mode; somebody may have taken another sign for it. */
const seenToWait: Partial<CauseWeights> = { noPower: 0.03, notInMode: 0.15, windowOver: 0.2, defect: 0.5 }

/** What ended it in finished pairings: how many by each cause. */
export type CauseCounts = Partial<Record<PairingCause, number>>
/** What a company has learnt: of all devices of a radio, and of one model. */
export interface PairingRecord {
  radio: CauseCounts
  model: CauseCounts
}
/** So many cases what is usual counts for, and what the company has of a radio for its model: a few cases fool nobody. */
const usualCases = 20
const companyCases = 10
/** What is to be expected before anything was seen: the model's record, shrunk to the company's, shrunk to what is usual (Dirichlet). */
export function expectedCauses(radio: RadioOfPairing, record: PairingRecord | null): CauseWeights {
  const share = (base: CauseWeights, cases: number, counts: CauseCounts): CauseWeights =>
    normal(Object.fromEntries(pairingCauses.map((cause) => [cause, base[cause] * cases + (counts[cause] ?? 0)])) as CauseWeights)
  const start = usualCauses(radio)
  return record ? share(share(start, usualCases, record.radio), companyCases, record.model) : start
}

/** What the record knows of this home that speaks for or against a cause. */
export interface PairingFacts {
  /** By the recorded closing: over, open, or nobody knows. */
  window: 'open' | 'over' | 'unknown'
  /** Others that joined the same network in this job. */
  joinedHere: number
  /** The bands the network's name is sent on; null: not on record. */
  bands: readonly string[] | null
  /** The 5 GHz band is paused. */
  paused: boolean
  isolated: boolean
  /** Devices of a previous owner are on record here. */
  boundHere: boolean
  /** What the radio at the box is held to be. */
  level: 'good' | 'fair' | 'poor' | null
  hubFull: boolean
}
const unknownFacts: PairingFacts = {
  ...{ window: 'unknown', joinedHere: 0, bands: null, paused: false, isolated: false, boundHere: false, level: null, hubFull: false },
}
function factor(cause: PairingCause, { window, joinedHere, bands, paused, isolated, boundHere, level, hubFull }: PairingFacts): number {
  const joined = joinedHere > 0
  switch (cause) {
    case 'windowOver':
      return window === 'over' ? 12 : window === 'open' ? 0.05 : 1
    case 'wrongBand':
      if (paused || (bands && !bands.includes('5') && !bands.includes('6'))) return 0.05
      if (bands && !bands.includes('2.4')) return 10
      return joined ? 0.3 : 1
    case 'wrongPassword':
      return joined ? 0.2 : 1
    case 'hubAway':
      return joined ? 0.3 : 1
    case 'isolated':
      return isolated ? 5 : joined ? 0.3 : 1
    case 'bound':
      return boundHere ? 3 : 1
    case 'weakSignal':
      return level === 'poor' ? 5 : level === 'good' ? 0.2 : 1
    case 'hubFull':
      return hubFull ? 12 : 1
    case 'wrongRegion':
      return joined ? 0.4 : 1
    default:
      return 1
  }
}

/** A device that did not join: what it is, what is known here, what was seen and what was tried, in order. */
export interface PairingCase {
  radio: RadioOfPairing
  /** How its model starts anew: by itself, by its breaker, or nobody knows; whether it has a network of its own. */
  restartsAlone: boolean
  ownNetwork: boolean
  /** It has a cell of its own: no breaker gives or takes its power. */
  ownCell?: boolean
  facts?: PairingFacts
  record?: PairingRecord | null
  /** In the order in which they were: a thing seen (`waited`: after the device had been seen to wait), or a step that was carried out and did not help. */
  history: ({ seen: Observation; waited?: boolean } | { tried: PairingStep })[]
}

const startsAnew: ReadonlySet<PairingStep> = new Set(['restart', 'powerCycle', 'reset', 'lookAtPower'])
/** @returns how likely each cause is, the sum being one */
export function causesOf({ radio, facts = unknownFacts, record = null, history }: PairingCase): CauseWeights {
  const weights = { ...expectedCauses(radio, record) }
  for (const cause of pairingCauses) weights[cause] *= factor(cause, facts)
  // The same thing seen twice says little more than once.
  const seen = new Set<Observation>()
  let waited = false
  for (const entry of history) {
    if ('seen' in entry) {
      if (entry.waited && !waited) for (const cause of pairingCauses) weights[cause] *= seenToWait[cause] ?? 1
      waited ||= entry.waited ?? false
      if (seen.has(entry.seen)) continue
      seen.add(entry.seen)
      for (const cause of pairingCauses) weights[cause] *= Math.max(slip, seenUnder[entry.seen][cause] ?? 0)
      continue
    }
    for (const cause of pairingCauses) weights[cause] *= 1 - (helps[entry.tried][cause] ?? 0)
    // What was started anew may show other things now.
    if (startsAnew.has(entry.tried)) {
      seen.clear()
      waited = false
    }
  }
  return normal(weights)
}

export interface NextStep {
  step: PairingStep
  /** How likely it helps, 0 to 1. */
  chance: number
  minutes: number
  /** The cause it would end most likely. */
  cause: PairingCause
}
function endedBy(causes: CauseWeights, step: PairingStep): Pick<NextStep, 'chance' | 'cause'> {
  const ended = (cause: PairingCause) => causes[cause] * (helps[step][cause] ?? 0)
  const [cause] = [...pairingCauses].sort((a, b) => ended(b) - ended(a))
  return { chance: pairingCauses.reduce((sum, one) => sum + ended(one), 0), cause: cause! }
}
/** A gesture may be made twice; everything else once is enough. */
const oftenEnough: Partial<Record<PairingStep, number>> = { gesture: 2, powerCycle: 2, restart: 2 }

/** What to try, the best first. A breaker is not touched while the device can be started anew by itself. */
export function nextSteps(pairing: PairingCase): NextStep[] {
  const causes = causesOf(pairing)
  const tried = (step: PairingStep) => pairing.history.filter((entry) => 'tried' in entry && entry.tried === step).length
  const fits = (step: PairingStep): boolean => {
    if (tried(step) >= (oftenEnough[step] ?? 1)) return false
    if (step === 'restart') return pairing.restartsAlone
    if (pairing.ownCell && (step === 'powerCycle' || step === 'lookAtPower')) return false
    if (step === 'powerCycle') return !pairing.restartsAlone || tried('restart') > 0
    if (step === 'accessPoint') return pairing.ownNetwork
    if (step === 'band' || step === 'password') return pairing.radio === 'wifi'
    if (step === 'hub') return pairing.radio !== 'wifi'
    return true
  }
  return pairingSteps
    .filter(fits)
    .map((step): NextStep => ({ step, minutes: stepMinutes[step], ...endedBy(causes, step) }))
    .sort((a, b) => b.chance / b.minutes - a.chance / a.minutes)
}

/** The cause that a step which helped speaks for, before it was tried. */
export const causeEnded = (pairing: PairingCase, step: PairingStep): PairingCause => endedBy(causesOf(pairing), step).cause
