import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { later } from './check-in'
import type { SoloStarted, StartLoneWork } from './start-lone-work.schema'

export const startLoneWork = siteCommand('startLoneWork', {
  kind: 'work',
  decide(site, command: StartLoneWork, { actor, now }) {
    if (!actor.licensed) return refuse('licenceNeeded', 'Only a licensed person works alone.', 'Work beside a licensed crew mate.')
    if (site.solo[actor.personId]) return refuse('alreadySolo', 'You already work alone here.')
    return accept(soloStarted({ ...command, dueAt: later(now, command.everyMinutes) }))
  },
})

export const soloStarted = siteEvent('soloStarted', {
  hands: true,
  evolve(site, payload: SoloStarted, event) {
    const { personId, name } = event.actor
    site.solo[personId] = { personId, name, contact: payload.contact, everyMinutes: payload.everyMinutes, dueAt: payload.dueAt }
  },
  say: (payload) => `works alone; contact ${payload.contact}, check-in every ${payload.everyMinutes} minutes`,
})
