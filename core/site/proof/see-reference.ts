import { accept, refuse } from '../../stream/envelope'
import { roundTo } from '../../units/round'
import { supplySchemes } from '../../units/scheme'
import { siteCommand, siteEvent } from '../define'
import { isKnownLive } from '../feeds'
import { breakerName, sentence } from '../names'
import { isSettled, isStepDisplay, pairStatuses } from '../proofs'
import type { ReferenceSeen } from '../parts.schema'
import { earthBelowOhms, judgeKnownLive, liveFromVolts, referenceNeutralBelowVolts } from '../reading'
import { noBreaker } from '../refusals'
import type { Proof, SiteState } from '../state'
import { isRefusal, ownOpenProof, ranges, type Refused } from './problems'
import type { ReferenceSeenEntry, SeeReference } from './see-reference.schema'

const badReference = (why: string) =>
  refuse(
    'referenceNotGood',
    `${why} This reference proves nothing.`,
    'Verify it by continuity to the main earth bar, or use a wander lead from that bar.',
  )

/** Why this is no good reference, or what has to be said about the supply. */
function referenceProblem(
  site: SiteState,
  proof: Proof,
  seen: ReferenceSeen,
): { refused: Refused } | { refused: null; warning: string | null } {
  if (seen.kind !== 'livePoint') {
    const net = seen.ohms - seen.leadOhms
    return net > earthBelowOhms
      ? {
          refused: badReference(
            `${seen.ohms} Ω less ${seen.leadOhms} Ω of leads is more than ${earthBelowOhms} Ω: ${seen.kind === 'twoEarths' ? 'the two earths are not one.' : 'no continuity to the main earth bar.'}`,
          ),
        }
      : { refused: null, warning: null }
  }
  const breaker = site.breakers[seen.breakerId]
  if (!breaker) return { refused: noBreaker() }
  if (!isKnownLive(site, breaker))
    return {
      refused: refuse(
        'pointNotLive',
        `${sentence(breakerName(site, breaker))} is ${breaker.state === 'closed' ? 'off further up' : breaker.state}: there is no live point behind it.`,
        'Use a live point on a closed circuit, or verify the reference by continuity.',
      ),
    }
  if (!ranges[proof.instrument.kind].some((range) => range !== 'high'))
    return {
      refused: refuse(
        'wrongMeter',
        `${proof.instrument.name} has no low-impedance range: against a live point a floating conductor shows anything.`,
        'Verify the reference by continuity, or take a tester with low impedance.',
      ),
    }
  const { lineToNeutral, referenceToLine, referenceToNeutral } = seen
  if (isStepDisplay(proof))
    return lineToNeutral < liveFromVolts || referenceToLine !== lineToNeutral || referenceToNeutral > 0
      ? { refused: badReference('The detector does not show the same step from the reference to the line, and none to the neutral.') }
      : { refused: null, warning: null }
  const { low, high } = supplySchemes[site.schemeId].utilisationBandVolts
  const supply = judgeKnownLive(lineToNeutral, supplySchemes[site.schemeId])
  if (!supply.ok) return { refused: badReference(supply.warning!) }
  const near = Math.abs(referenceToLine - lineToNeutral) <= 0.1 * lineToNeutral
  if (!near && !(referenceToLine >= low && referenceToLine <= high))
    return { refused: badReference(`${referenceToLine} V from the reference to the line, ${lineToNeutral} V from line to neutral.`) }
  if (referenceToNeutral >= referenceNeutralBelowVolts)
    return {
      refused: badReference(
        `${referenceToNeutral} V from the reference to the neutral; below ${referenceNeutralBelowVolts} V is expected.`,
      ),
    }
  return { refused: null, warning: supply.warning }
}

const referenceText = (seen: ReferenceSeen) =>
  seen.kind === 'livePoint'
    ? `${roundTo(seen.referenceToLine, 2)} V to the line and ${roundTo(seen.referenceToNeutral, 2)} V to the neutral of ${seen.name}`
    : `${seen.ohms} Ω to ${seen.kind === 'twoEarths' ? seen.second : 'the main earth bar'}, ${seen.leadOhms} Ω of it leads`

export const seeReference = siteCommand('seeReference', {
  kind: 'work',
  queues: true,
  decide(site, command: SeeReference, { actor }) {
    const proof = ownOpenProof(site, command.proofId, actor)
    if (isRefusal(proof)) return proof
    const box = site.boxes[proof.boxId]!
    if (command.reference === 'boxGround' && !command.letter)
      return refuse('referenceUnnamed', 'Say which conductor of the box is the {ground} you use.')
    if (command.reference !== 'boxGround' && command.letter)
      return refuse(
        'referenceUnclear',
        'A wander lead or the earth bar is no conductor of this box.',
        'Leave the letter out: every conductor of the box is read.',
      )
    if (command.letter && !box.conductors.some((conductor) => conductor.letter === command.letter))
      return refuse('noSuchConductor', `There is no conductor ${command.letter} in this box.`)
    const same = proof.reference?.kind === command.reference && proof.reference.letter === command.letter
    if (command.again && !same)
      return refuse(
        'otherReference',
        'This is not the reference the readings were made against.',
        'Verify the same one again, or start the readings again.',
      )
    if (command.again && !pairStatuses(site, box, proof).every(isSettled))
      return refuse('readingsMissing', 'The readings come first.', 'Finish them, then verify the reference again.')
    const problem = referenceProblem(site, proof, command.seen)
    if (problem.refused) return problem.refused
    return accept(referenceSeen({ ...command, warning: problem.warning, anew: !command.again && proof.readings.length > 0 }))
  },
  label: (submission) => `reference verified${submission.again ? ' again' : ''}`,
})

export const referenceSeen = siteEvent('referenceSeen', {
  lifts: [
    ({ against, volts, ...payload }) => ({
      ...payload,
      seen: {
        kind: 'livePoint',
        breakerId: '',
        name: against,
        lineToNeutral: volts,
        referenceToLine: volts,
        referenceToNeutral: 0,
      },
      again: false,
      anew: false,
      warning: null,
    }),
  ],
  evolve(site, payload: ReferenceSeenEntry, event) {
    const { reference: kind, letter, seen, warning } = payload
    const proof = site.proofs[payload.proofId]!
    // Another reference, or a lead that was moved: what was read against the first says nothing.
    if (payload.anew) proof.readings = []
    proof.reference = { kind, letter, seen, warning }
    proof.referenceSeenAgain = payload.again
    proof.touchedAt = event.receivedAt
  },
  say: (payload) => `verified the reference${payload.again ? ' again' : ''}: ${referenceText(payload.seen)}`,
})
