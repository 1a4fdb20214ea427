import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { EndMeasuring, MeasuringEnded } from './end-measuring.schema'

export const endMeasuring = siteCommand('endMeasuring', {
  kind: 'work',
  by: 'owner',
  decide(site, command: EndMeasuring, { actor }) {
    const entry = site.measuring[command.measureId]
    if (!entry) return refuse('noSuchMeasure', 'This has already ended.')
    if (entry.personId !== actor.personId && actor.role !== 'lead') return refuse('notYours', `${entry.name} is measuring.`)
    return accept(measuringEnded(command))
  },
})

export const measuringEnded = siteEvent('measuringEnded', {
  evolve(site, payload: MeasuringEnded) {
    delete site.measuring[payload.measureId]
  },
  say: () => 'finished measuring live',
})
