import type { WhyEnded } from './words'
import type { StreamEvent } from '../stream/envelope'
import type { Consequence, SignConsequence } from './parts.schema'
import { peopleOf } from './proofs'
import type { PowerRequest, BoxState, Sign, SiteState } from './state'

/** Ends proofs. */
export function voidProofs(site: SiteState, ids: string[], why: WhyEnded): void {
  for (const id of ids) {
    const proof = site.proofs[id]
    if (!proof || proof.status === 'void') continue
    proof.status = 'void'
    proof.voidWhy = why
    for (const one of Object.values(site.signs)) one.suspends = one.suspends.filter((other) => other !== id)
  }
}

/**
 * Alarms people, with the boxes their hands may be in: those of the proofs they rely on and those they opened. What the
 * event ends is ended after this. Whoever has none of these is told, and nothing waits for them.
 */
export function raise(
  site: SiteState,
  alarms: string[],
  voids: string[],
  boxIds: string[],
  breakerId: string | null,
  event: StreamEvent,
): void {
  for (const personId of alarms) {
    const person = site.people[personId]
    const relied = voids.flatMap((id) => {
      const proof = site.proofs[id]
      return proof && peopleOf(proof).some((one) => one.personId === personId) ? proof.boxId : []
    })
    const opened = boxIds.filter((id) => {
      const one = site.boxes[id]
      return one && one.closure !== 'closed' && personId in one.openWords
    })
    site.alarms[`${event.seq} ${personId}`] = {
      personId,
      name: person?.name ?? '',
      initials: person?.initials ?? '',
      boxIds: [...new Set([...relied, ...opened])],
      seq: event.seq,
      what: event.type,
      by: event.actor.name,
      breakerId,
      at: event.receivedAt,
      shownAt: null,
    }
  }
}

export function end(
  site: SiteState,
  { voids, alarms }: Consequence,
  why: WhyEnded,
  event: StreamEvent,
  { boxIds = [], breakerId = null }: { boxIds?: string[]; breakerId?: string | null } = {},
): void {
  raise(site, alarms, voids, boxIds, breakerId, event)
  voidProofs(site, voids, why)
}

/** What a sign of voltage leaves behind: what it ends or holds in suspense, and the question what it was. */
export function leaveSign(
  site: SiteState,
  payload: SignConsequence,
  why: WhyEnded,
  event: StreamEvent,
  about: Pick<Sign, 'boxId' | 'what' | 'pair' | 'volts' | 'impedance' | 'instrumentId' | 'proofId'>,
): void {
  const { reached, suspends, suspense } = payload
  raise(site, payload.alarms, [...payload.voids, ...suspends], reached, null, event)
  if (payload.unexplained || suspense)
    site.signs[event.seq] = {
      seq: event.seq,
      at: event.receivedAt,
      reached,
      suspends,
      suspense,
      personId: event.actor.personId,
      name: event.actor.name,
      ...about,
    }
  voidProofs(site, payload.voids, why)
}

/** Dead by low impedance: in time nothing had happened, and nobody has to answer; too late the proofs are over. */
export function clearDoubts(site: SiteState, { restores, voids }: { restores: number[]; voids: string[] }): void {
  for (const seq of restores) {
    delete site.signs[seq]
    if (voids.length === 0) for (const [key, alarm] of Object.entries(site.alarms)) if (alarm.seq === seq) delete site.alarms[key]
  }
  voidProofs(site, voids, { code: 'doubtClearedLate' })
}

export function hasAnswered(site: SiteState, personId: string, boxId: string | null): void {
  for (const [key, alarm] of Object.entries(site.alarms)) {
    if (alarm.personId !== personId) continue
    if (boxId !== null) alarm.boxIds = alarm.boxIds.filter((id) => id !== boxId)
    if (boxId === null || (alarm.boxIds.length === 0 && alarm.shownAt !== null)) delete site.alarms[key]
  }
}

export const boxAt = (site: SiteState, id: string): BoxState => site.boxes[id]!

/** Voltage was seen in this box: whatever was ruled out before is open again. */
export function signOfPower(site: SiteState, boxId: string, event: StreamEvent): void {
  const target = boxAt(site, boxId)
  target.liveSeq = event.seq
  target.ruledOut = {}
  for (const part of target.parted) part.tested = false
}

export function showedVoltage(target: BoxState, ...letters: string[]): void {
  for (const letter of letters)
    if (target.conductors.some((one) => one.letter === letter) && !target.readLive.includes(letter)) target.readLive.push(letter)
}

export function openUp(site: SiteState, target: BoxState, event: StreamEvent): void {
  target.closure = 'opened'
  target.guardedBy = null
  target.openedBy = personOf(event)
  target.lastOpenedAt = event.receivedAt
  target.closedBy = null
  target.openWords[event.actor.personId] = event.seq
  bringBack(site, target)
}

/** Somebody stands at it: it is there, whoever said that it is not. */
export function bringBack(site: SiteState, box: BoxState): void {
  if (!box.retired) return
  box.retired = null
  site.boxOrder.push(box.id)
  if (!site.roomOrder.includes(box.roomId)) site.roomOrder.push(box.roomId)
}

export function addAsk(
  site: SiteState,
  { askId, breakerId, boxId, note }: { askId: string; breakerId: string; boxId: string | null; note: string },
  event: StreamEvent,
  kind: PowerRequest['kind'],
  purpose: PowerRequest['purpose'],
): void {
  const { personId, name, initials } = event.actor
  site.asks[askId] = {
    id: askId,
    kind,
    breakerId,
    boxId,
    personId,
    name,
    initials,
    purpose,
    note,
    askedAt: event.receivedAt,
    askedSeq: event.seq,
    clear: [],
    status: 'asked',
  }
}

/** Off the site: nothing here waits for this person, and nobody has to ask them. */
export function gone(site: SiteState, personId: string, event: StreamEvent): void {
  const person = site.people[personId]
  if (person) person.leftAt = event.receivedAt
  delete site.onSite[personId]
  hasAnswered(site, personId, null)
  delete site.solo[personId]
  for (const entry of Object.values(site.measuring)) if (entry.personId === personId) delete site.measuring[entry.id]
}

export const lettersIn = (target: BoxState, ends: string[]) => ends.filter((end) => target.conductors.some((one) => one.letter === end))

export const personOf = ({ actor: { personId, name, initials } }: StreamEvent) => ({ personId, name, initials })
