import { adding } from '../../stream/upcast'
import { accept, refuse, type Actor, type Decision, type EventDraft } from '../../stream/envelope'
import { boxAt, end, gone } from '../changes'
import { endOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { withEnds } from '../lifts'
import { breakerName, sentence } from '../names'
import { isLeftSafe } from '../permissions'
import { boxName } from '../proofs'
import type { SiteState } from '../state'
import { ended } from '../telling'
import type { LeaveSite, SiteLeft } from './leave-site.schema'
import { type Person, restingOn } from './leaving'

/** Leaving ends one's proofs and is refused while one's tags, leave or bare ends are left behind. */
export function decideLeave(site: SiteState, actor: Actor): Decision<EventDraft<'siteLeft', SiteLeft>> {
  const tags = Object.values(site.tags).filter((tag) => tag.personId === actor.personId && !tag.company)
  if (tags.length > 0) {
    const names = tags.map((tag) => breakerName(site, site.breakers[tag.breakerId]!)).join(', ')
    return refuse('tagsLeft', `Your tag still hangs on ${names}.`, 'Close or guard the boxes, take your tags off, then leave.')
  }
  const permit = Object.values(site.grants).find((candidate) => candidate.personId === actor.personId)
  if (permit)
    return refuse(
      'grantLeft',
      `You asked to close ${breakerName(site, site.breakers[permit.breakerId]!)} and have not recorded its position.`,
      'Answer the request first.',
    )
  const ask = Object.values(site.asks).find((candidate) => candidate.personId === actor.personId && candidate.status !== 'asked')
  if (ask)
    return refuse(
      'askLeft',
      `${sentence(breakerName(site, site.breakers[ask.breakerId]!))} is closed for you with boxes open.`,
      'Open it again first.',
    )
  const handOver: Record<string, Person> = {}
  const mates = Object.values(site.onSite).filter((person) => person.personId !== actor.personId)
  for (const box of Object.values(site.boxes)) {
    const keeper = box.openedBy?.personId
    const kept = keeper !== undefined && keeper !== actor.personId && mates.some((mate) => mate.personId === keeper)
    if (kept || isLeftSafe(site, box)) continue
    // A mate who stays takes the open box over, the one who works in it first. The last to go leaves none.
    const proof = Object.values(site.proofs).find((candidate) => candidate.boxId === box.id && candidate.status !== 'void')
    const mate = mates.find((candidate) => candidate.personId === proof?.personId) ?? mates[0]
    if (!mate)
      return refuse(
        'boxOpen',
        `${sentence(boxName(site, box))} stands open.`,
        'Close it up, cap and guard it, or have its {breaker} held open by the company’s lock with a notice.',
      )
    handOver[box.id] = mate
  }
  const ends = endOf(site, restingOn(site, actor.personId), actor)
  return accept(siteLeft({ ...ends, people: null, handOver }))
}

export const leaveSite = siteCommand('leaveSite', {
  kind: 'fact',
  decide(site, _command: LeaveSite, { actor }) {
    return decideLeave(site, actor)
  },
})

export const siteLeft = siteEvent('siteLeft', {
  lifts: [withEnds, adding({ people: null, handOver: {} })],
  evolve(site, payload: SiteLeft, event) {
    for (const personId of payload.people ?? [event.actor.personId]) {
      gone(site, personId, event)
      for (const ask of Object.values(site.asks)) if (ask.personId === personId && ask.status === 'asked') delete site.asks[ask.id]
    }
    for (const [id, person] of Object.entries(payload.handOver)) {
      boxAt(site, id).openedBy = person
      boxAt(site, id).openWords[person.personId] = event.seq
    }
    end(site, payload, { code: 'proverLeft' }, event)
  },
  say: (payload) => `left the site.${ended(payload.voids)}`,
})
