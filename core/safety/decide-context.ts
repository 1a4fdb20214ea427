import { refuse, type Actor, type Decision } from '../stream'
import { boxesBehind } from './feeds'
import type { Answer, SafetyClock } from './permissions'
import { peopleAtRisk, proofsIn } from './proof'
import type { Consequence, InstrumentSnapshot, SiteCommand, SiteCommandType, SiteEvent } from './schema'
import type { BoxState, Proof, SiteState } from './state'

/** What the record of a site cannot know by itself. */
export interface SiteContext extends SafetyClock {
  actor: Actor
  /** Works on a job at this site today or leads the branch. */
  onCrew: boolean
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

/** What an entry ends and whom it must alarm, when power may have come to these boxes. */
export function consequenceFor(site: SiteState, boxes: BoxState[], breakerIds: string[], actor: Actor): Consequence {
  const proofs = proofsIn(site, boxes)
  const alarms = peopleAtRisk(site, proofs, breakerIds).filter((id) => id !== actor.personId)
  return { voids: proofs.map((proof) => proof.id), alarms }
}

/** A sign of voltage in a box may come from any of its feeds, so every box that shares one is in doubt. */
export function boxesSharingFeed(site: SiteState, box: BoxState): BoxState[] {
  const boxes = new Set<BoxState>([box])
  for (const id of box.breakerIds) for (const other of boxesBehind(site, id)) boxes.add(other)
  return [...boxes]
}

/** The proofs of this person in these boxes. */
export function ownProofsIn(site: SiteState, boxes: BoxState[], personId: string): string[] {
  return proofsIn(site, boxes)
    .filter((proof: Proof) => proof.personId === personId)
    .map((proof) => proof.id)
}
