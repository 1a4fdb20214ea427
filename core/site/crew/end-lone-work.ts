import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { EndLoneWork, SoloEnded } from './end-lone-work.schema'

export const endLoneWork = siteCommand('endLoneWork', {
  kind: 'work',
  by: 'owner',
  decide(site, _command: EndLoneWork, { actor }) {
    if (!site.solo[actor.personId]) return refuse('notSolo', 'You do not work alone here.')
    return accept(soloEnded({}))
  },
})

export const soloEnded = siteEvent('soloEnded', {
  evolve(site, _payload: SoloEnded, event) {
    delete site.solo[event.actor.personId]
  },
  say: () => 'no longer works alone',
})
