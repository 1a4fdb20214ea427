import { type Actor, refuse } from '../stream/envelope'
import type { SiteContext } from './context'
import { boxesInDoubt, pointsOf, shouldBeDead } from './feeds'
import type { Consequence, SignConsequence } from './parts.schema'
import { breakerName } from './names'
import { energySeqOf, permitReaching } from './permissions'
import { peopleAtRisk, proofsIn, relyingOn } from './proofs'
import type { BoxState, Proof, SiteState } from './state'

const others = (people: string[], actor: Actor | null) => people.filter((id) => id !== actor?.personId)

/**
 * What an entry ends and whom it must alarm, when power may have come to these boxes.
 * @param actor who knows of it without an alarm; null: nobody does
 */
export function consequenceFor(site: SiteState, boxes: BoxState[], breakerIds: string[], actor: Actor | null): Consequence {
  return { voids: proofsIn(site, boxes).map((proof) => proof.id), alarms: others(peopleAtRisk(site, boxes, breakerIds), actor) }
}

/**
 * What a path that is new on record ends and whom it alarms: whoever has a permit to close something, too, where one of these
 * boxes is open. They were told yes before anybody knew of the path.
 */
export function consequenceOfPath(site: SiteState, boxes: BoxState[], breakerIds: string[], actor: Actor | null): Consequence {
  const { voids, alarms } = consequenceFor(site, boxes, breakerIds, actor)
  const closing = boxes.some(({ closure }) => closure !== 'closed') ? Object.values(site.grants).map((permit) => permit.personId) : []
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
  const permit = permitReaching(site, box)
  if (permit)
    return refuse(
      'grantOutstanding',
      `${permit.name} may be closing ${breakerName(site, site.breakers[permit.breakerId]!)} right now: it counts as live.`,
      `Have ${permit.name} answer the request first.`,
    )
  return basedOnSeq < energySeqOf(site, box)
    ? refuse('seenTooEarly', 'Power may have been on here since you read this. The reading no longer counts.', 'Prove it dead again.')
    : null
}

/** The proofs of this person in these boxes. */
export function ownProofsIn(site: SiteState, boxes: BoxState[], personId: string): Proof[] {
  return proofsIn(site, boxes).filter((proof) => proof.personId === personId)
}
