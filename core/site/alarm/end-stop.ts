import { accept, refuse } from '../../stream/envelope'
import { quoted } from '../../stream/telling'
import { siteCommand, siteEvent } from '../define'
import type { EndStop, WorkResumed } from './end-stop.schema'

export const endStop = siteCommand('endStop', {
  kind: 'work',
  by: 'owner',
  decide(site, command: EndStop, { actor }) {
    if (site.stop?.id !== command.stopId) return refuse('noSuchStop', 'Work here is not stopped.')
    if (site.stop.personId !== actor.personId && actor.role !== 'lead')
      return refuse('notYours', `${site.stop.name} stopped the work.`, `${site.stop.initials} or a lead restarts work.`)
    return accept(workResumed(command))
  },
})

export const workResumed = siteEvent('workResumed', {
  evolve(site, _payload: WorkResumed) {
    delete site.stop
  },
  say: (payload) => `restarted work${quoted(payload.note)}`,
})
