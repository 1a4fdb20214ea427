import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { EndSolo, SoloEnded } from './end-solo.schema'

export const endSolo = siteCommand('endSolo', {
  kind: 'work',
  by: 'owner',
  decide(site, _command: EndSolo, { actor }) {
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
