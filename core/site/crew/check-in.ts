import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { CheckedIn, CheckIn } from './check-in.schema'

export const later = (now: string, minutes: number) => new Date(Date.parse(now) + minutes * 60_000).toISOString()

export const checkIn = siteCommand('checkIn', {
  kind: 'work',
  by: 'owner',
  queues: true,
  ownPin: true,
  decide(site, _command: CheckIn, { actor, now, heldMs }) {
    const solo = site.solo[actor.personId]
    if (!solo) return refuse('notSolo', 'You do not work alone here.')
    // A check-in that waited on the phone says how things were then.
    return accept(checkedIn({ dueAt: later(now, solo.everyMinutes - heldMs / 60_000) }))
  },
  label: () => 'check-in',
})

export const checkedIn = siteEvent('checkedIn', {
  evolve(site, payload: CheckedIn, event) {
    site.solo[event.actor.personId]!.dueAt = payload.dueAt
  },
  say: () => 'checked in',
})
