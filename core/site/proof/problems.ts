import { whyEnded } from '../why-ended'
import { type Actor, refuse } from '../../stream/envelope'
import { supplySchemes } from '../../units/scheme'
import { endOf } from '../consequence'
import type { SiteContext } from '../context'
import { isKnownLive } from '../feeds'
import type { InstrumentSnapshot } from '../parts.schema'
import { breakerName, sentence } from '../names'
import { minutesBetween } from '../permissions'
import { boxName, sameEnds } from '../proofs'
import { highestFirstStepVolts, type Impedance, judgeKnownLive, liveFromVolts, suspenseMinutes } from '../reading'
import { noBreaker, noProof } from '../refusals'
import type { Proof, Sign, SiteState } from '../state'
import type { StartProof } from './start-proof.schema'

export type Refused = ReturnType<typeof refuse>

export function ownOpenProof(site: SiteState, proofId: string, actor: Actor): Proof | Refused {
  const proof = site.proofs[proofId]
  if (!proof) return noProof()
  if (proof.personId !== actor.personId) return refuse('notYours', `This proof is ${proof.name}'s.`, 'Start your own, or witness it.')
  if (proof.status !== 'open')
    return refuse(
      'proofClosed',
      proof.status === 'void' ? `This proof has ended: ${whyEnded(site, proof.voidWhy!)}` : 'This proof is already finished.',
      'Start a new proof.',
    )
  return proof
}

export const isRefusal = (value: Proof | Refused): value is Refused => 'ok' in value

export const ranges: Record<InstrumentSnapshot['kind'], readonly Impedance[]> = {
  high: ['high'],
  low: ['low'],
  both: ['high', 'low'],
  twoPole: ['steps'],
  nonContact: [],
}

export function lacksRange(proof: Proof, impedance: Impedance): Refused | null {
  return ranges[proof.instrument.kind].includes(impedance)
    ? null
    : refuse(
        'wrongMeter',
        `${proof.instrument.name} has no ${impedance === 'steps' ? 'display in steps' : `${impedance}-impedance range`}.`,
        'Start the proof again with a tester that has it.',
      )
}

/** May anybody prove anything with this instrument now? */
export function instrumentProblem(
  site: SiteState,
  instrumentId: string,
  instrument: InstrumentSnapshot | null,
  today: string,
): Refused | null {
  if (!instrument) return refuse('noSuchInstrument', 'This tester is not in the register.', 'Pick a tester from the register.')
  if (instrument.kind === 'nonContact')
    return refuse(
      'screenOnly',
      `${instrument.name} is a non-contact tester: a screen, never a proof.`,
      'Take a meter or a two-pole detector.',
    )
  if (instrument.kind === 'twoPole' && (instrument.lowestStepVolts ?? Infinity) > highestFirstStepVolts)
    return refuse(
      'stepTooHigh',
      `The lowest step of ${instrument.name} is above ${highestFirstStepVolts} V or not on record: no indication would prove nothing.`,
      'Take a tester with a lower first step, or have a lead record its steps.',
    )
  if (instrument.calibrationDue < today)
    return refuse(
      'calibrationOver',
      `The calibration of ${instrument.name} ended on ${instrument.calibrationDue}.`,
      'Take a tester whose calibration is in date.',
    )
  const failed = site.failedInstruments[instrumentId]
  if (instrument.outOfService || (failed && !(instrument.provedGoodAt && instrument.provedGoodAt > failed.at)))
    return refuse(
      'testerFailed',
      `${instrument.name} failed and is out of service. Its readings do not count.`,
      'Take another tester. A lead returns it to service once it proves good on two sources.',
    )
  return null
}

/** What a known source must show before anything is tested: the supply's voltage behind a closed breaker, or a proving unit's. */
export function sourceProblem(
  site: SiteState,
  source: StartProof['source'],
  volts: number,
): { refused: Refused } | { refused: null; warning: string | null } {
  if (source.kind === 'provingUnit')
    return volts < liveFromVolts
      ? {
          refused: refuse('testerSilent', `The proving unit gave ${volts} V on the tester.`, 'Change its battery or take another tester.'),
        }
      : { refused: null, warning: null }
  const breaker = site.breakers[source.breakerId]
  if (!breaker) return { refused: noBreaker() }
  if (!isKnownLive(site, breaker))
    return {
      refused: refuse(
        'sourceNotLive',
        `${sentence(breakerName(site, breaker))} is ${breaker.state === 'closed' ? 'off further up' : breaker.state}: nothing behind it is a known live source.`,
        'Use a socket on a closed circuit, or a proving unit.',
      ),
    }
  const supply = judgeKnownLive(volts, supplySchemes[site.schemeId])
  return supply.ok
    ? { refused: null, warning: supply.warning }
    : {
        refused: refuse('sourceNotLive', supply.warning!, 'Use another known live source; if the tester is at fault, take it out of use.'),
      }
}

export const causeMissing = (site: SiteState, sign: Sign) =>
  refuse(
    'causeMissing',
    `There was voltage at ${boxName(site, site.boxes[sign.boxId]!)}${sign.volts === null ? '' : ` (${sign.volts} V)`}, and nobody has recorded why.`,
    'Find out and record what it was. If nobody can tell: record it as unknown, then open and tag the {main} and all other sources.',
  )

/** Every proof that rests on what an instrument said since it was last seen good, here. */
export function proofsWith(site: SiteState, instrumentId: string): Proof[] {
  const goodSeq = site.instrumentGoodSeq[instrumentId] ?? 0
  return Object.values(site.proofs).filter(
    (proof) =>
      proof.instrumentId === instrumentId && (proof.status === 'open' || (proof.status === 'living' && proof.basedOnSeq >= goodSeq)),
  )
}

/** Doubts of these very pairs in this box that are now dead by low impedance; too late, what they held in suspense has ended. */
export function doubtsCleared(site: SiteState, boxId: string, pairs: { a: string; b: string }[], { actor, now }: SiteContext) {
  const cleared = Object.values(site.signs).filter(
    ({ suspense, pair, ...sign }) => suspense && sign.boxId === boxId && pair !== null && pairs.some((one) => sameEnds(one, pair)),
  )
  const late = cleared.filter((sign) => minutesBetween(sign.at, now) > suspenseMinutes)
  const ended = late.flatMap((sign) => sign.suspends).flatMap((id) => site.proofs[id] ?? [])
  return { restores: cleared.map((sign) => sign.seq), ...endOf(site, ended, actor) }
}

export const noReference = () =>
  refuse('noReference', 'No reference has been verified yet. A reading proves nothing without one.', 'Verify the reference first.')
