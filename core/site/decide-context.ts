import { refuse, type Actor, type Decision } from '../stream'
import { boxesInDoubt, pointsOf, shouldBeDead } from './feeds'
import { breakerName, energySeqOf, grantReaching, type Answer, type SafetyClock } from './permissions'
import { peopleAtRisk, proofsIn, relyingOn } from './proof'
import type { Consequence, InstrumentSnapshot, SignConsequence, SiteCommand, SiteCommandType, SiteEvent } from './schema'
import type { BoxState, Proof, SiteState } from './state'

/** What the record of a site cannot know by itself. */
export interface SiteContext extends SafetyClock {
  actor: Actor
  /** The date at the site, for calibrations that end with a day. */
  today: string
  /** Works on a job at this site today or leads the branch. */
  onCrew: boolean
  /** On a visit of this site that is due today: only such a person witnesses. */
  onVisit: boolean
  /** The company reads every pair of conductors in a dead test. */
  everyPair: boolean
  /** The newest seq the client had seen when the person acted. */
  basedOnSeq: number
  /** How long the command waited on a phone without network, ms. */
  heldMs: number
  /** Register entry of an instrument, or null when the company has no such instrument. */
  instrument(id: string): InstrumentSnapshot | null
}

export type Handler<T extends SiteCommandType> = (
  site: SiteState,
  command: Extract<SiteCommand, { type: T }>,
  context: SiteContext,
) => Decision<SiteEvent>
export type Handlers<T extends SiteCommandType> = { [K in T]: Handler<K> }

export const refuseAnswer = (answer: Extract<Answer, { yes: false }>) => refuse(answer.code, answer.reasons, answer.toYes)
export const noBox = () => refuse('noSuchBox', 'There is no such box at this site.')
export const noBreaker = () => refuse('noSuchBreaker', 'There is no such breaker at this site.')
export const noProof = () => refuse('noSuchProof', 'There is no such proof at this site.')
export const noAsk = () => refuse('noSuchAsk', 'This request is no longer open.')

const others = (people: string[], actor: Actor | null) => people.filter((id) => id !== actor?.personId)

/**
 * What an entry ends and whom it must alarm, when power may have come to these boxes.
 * @param actor who knows of it without an alarm; null: nobody does
 */
export function consequenceFor(site: SiteState, boxes: BoxState[], breakerIds: string[], actor: Actor | null): Consequence {
  return { voids: proofsIn(site, boxes).map((proof) => proof.id), alarms: others(peopleAtRisk(site, boxes, breakerIds), actor) }
}

/**
 * What a path that is new on record ends and whom it alarms: whoever has leave to close something, too, where one of these
 * boxes is open. They were told yes before anybody knew of the path.
 */
export function consequenceOfPath(site: SiteState, boxes: BoxState[], breakerIds: string[], actor: Actor | null): Consequence {
  const { voids, alarms } = consequenceFor(site, boxes, breakerIds, actor)
  const closing = boxes.some(({ closure }) => closure !== 'closed') ? Object.values(site.grants).map((grant) => grant.personId) : []
  return { voids, alarms: [...new Set([...alarms, ...others(closing, actor)])] }
}

/** These proofs end, and whoever else relies on one of them is told at once. */
export function endOf(site: SiteState, proofs: Proof[], actor: Actor): Consequence {
  return { voids: proofs.map((proof) => proof.id), alarms: others(relyingOn(proofs), actor) }
}

export const nothingEnds = { voids: [], alarms: [] } as const satisfies Consequence

/**
 * What a sign of voltage in a box ends, whom it alarms, and whether it needs a cause. A sounding non-contact tester
 * picks up neighbouring cables: it speaks of its own box. `suspense`: a high-impedance reading, which holds the other
 * proofs until the same pair is read by low impedance.
 */
export function signOf(
  site: SiteState,
  box: BoxState,
  actor: Actor,
  { reach = 'all', suspense = false, own = null }: { reach?: 'all' | 'own'; suspense?: boolean; own?: string | null } = {},
): SignConsequence {
  const boxes = reach === 'own' ? [box] : boxesInDoubt(site, box)
  const points =
    reach === 'own' ? [] : [...pointsOf(site, box)].filter((id) => site.breakers[id]!.state !== 'closed' || box.breakerIds.includes(id))
  const unexplained = shouldBeDead(site, box)
  const { voids, alarms } = (unexplained ? consequenceOfPath : consequenceFor)(site, boxes, points, actor)
  const living = voids.filter((id) => site.proofs[id]!.status === 'living')
  return {
    voids: suspense ? [] : voids,
    suspends: suspense ? living.filter((id) => id !== own) : [],
    alarms,
    suspense,
    reached: boxes.map((one) => one.id),
    unexplained,
  }
}
export const noSign = {
  voids: [],
  alarms: [],
  reached: [],
  suspends: [],
  suspense: false,
  unexplained: false,
} as const satisfies SignConsequence

/** What was read before the last sign of power, or while power may be coming, says nothing about now. */
export function seenTooEarly(
  site: SiteState,
  box: BoxState,
  { basedOnSeq }: Pick<SiteContext, 'basedOnSeq'>,
): ReturnType<typeof refuse> | null {
  const grant = grantReaching(site, box)
  if (grant)
    return refuse(
      'grantOutstanding',
      `${grant.name} may be closing ${breakerName(site, site.breakers[grant.breakerId]!)} right now: it counts as live.`,
      `Have ${grant.name} answer the request first.`,
    )
  return basedOnSeq < energySeqOf(site, box)
    ? refuse('seenTooEarly', 'Power may have been on here after you read this: it says nothing about now.', 'Prove it dead again.')
    : null
}

/** The proofs of this person in these boxes. */
export function ownProofsIn(site: SiteState, boxes: BoxState[], personId: string): Proof[] {
  return proofsIn(site, boxes).filter((proof) => proof.personId === personId)
}

/** Waited on a phone without network: it says how things were, not how they are. */
export const waited = ({ heldMs }: Pick<SiteContext, 'heldMs'>) => heldMs > longestHoldMs
/** A question goes out at once or not at all, ms. Common practice, no source. */
const longestHoldMs = 60_000
