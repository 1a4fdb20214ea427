import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { sentence } from '../names'
import { loneWorkOf } from '../permissions'
import { boxName } from '../proofs'
import { noBox } from '../refusals'
import type { MeasuringStarted, StartMeasuring } from './start-measuring.schema'

export const startMeasuring = siteCommand('startMeasuring', {
  kind: 'permission',
  decide(site, command: StartMeasuring, { actor, now }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (!actor.licensed) return refuse('licenceNeeded', 'Only a licensed person measures on live parts.', 'Ask a licensed crew mate.')
    if (site.measuring[command.measureId]) return refuse('measureExists', 'This is already announced.')
    if (box.closure === 'closed')
      return refuse('boxClosed', `${sentence(boxName(site, box))} is closed up.`, 'Take the plate off and record the box open.')
    const asks = command.warnedIds.filter((id) => id !== actor.personId)
    const alone = loneWorkOf(site, actor.personId, { now })
    if (asks.length === 0 && !alone.working)
      return refuse('nobodyWarned', 'Nobody has been warned.', 'Name the crew mate you warned, or start working alone with a contact.')
    if (alone.overdue) return refuse('checkInDue', 'Your check-in is overdue.', 'Check in with your contact first.')
    return accept(measuringStarted({ ...command, warnedIds: asks, asks }))
  },
})

export const measuringStarted = siteEvent('measuringStarted', {
  hands: true,
  evolve(site, payload: MeasuringStarted, event) {
    const { personId, name, initials } = event.actor
    const { measureId: id, boxId, warnedIds } = payload
    // One box at a time: announcing another ends the last.
    for (const old of Object.values(site.measuring)) if (old.personId === personId) delete site.measuring[old.id]
    site.measuring[id] = { id, boxId, personId, name, initials, startedAt: event.receivedAt, warnedIds }
  },
  say: (payload, { box }) => `measures live at ${box(payload.boxId)}${payload.warnedIds.length ? ', crew warned' : ', working alone'}`,
})
