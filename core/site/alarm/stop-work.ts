import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { raise } from '../changes'
import { siteCommand, siteEvent } from '../define'
import { peopleAtRisk } from '../proofs'
import type { StopWork, WorkStopped } from './stop-work.schema'

export const stopWork = siteCommand('stopWork', {
  kind: 'fact',
  queues: true,
  decide(site, command: StopWork, { actor }) {
    if (site.stop) return refuse('alreadyStopped', `${site.stop.name} has stopped the work here already.`)
    const boxes = Object.values(site.boxes)
    const concerned = new Set([...Object.keys(site.onSite), ...peopleAtRisk(site, boxes, Object.keys(site.breakers))])
    for (const permit of Object.values(site.grants)) concerned.add(permit.personId)
    concerned.delete(actor.personId)
    return accept(workStopped({ ...command, alarms: [...concerned] }))
  },
  label: () => 'work stopped',
})

export const workStopped = siteEvent('workStopped', {
  evolve(site, payload: WorkStopped, event) {
    const { personId, name, initials } = event.actor
    site.stop = { id: payload.stopId, personId, name, initials, at: event.receivedAt, seq: event.seq, what: null, note: '' }
    raise(site, payload.alarms, [], Object.keys(site.boxes), null, event)
  },
  say: () => alarm('stopped the work'),
})
