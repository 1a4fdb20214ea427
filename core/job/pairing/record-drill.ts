import { refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { openPairing } from './pairing-of'
import type { DrillRecorded, RecordDrill } from './record-drill.schema'
import { drillSaid } from './drill-said'
import { drillWords } from './words'

/** What still works with the internet off, and with the router off: tried once in each home, before anybody counts on it. */
export const recordDrill = jobCommand('recordDrill', {
  by: 'crew',
  queues: true,
  decide: (_, command: RecordDrill) =>
    command.wall === 'fails' && !command.note
      ? refuse('noteMissing', 'A wall control that needs a network is not what was promised.', 'Note which one, and what it did.')
      : done(drillRecorded(command)),
  label: ({ without }) => drillWords[without],
})

export const drillRecorded = jobEvent('drillRecorded', {
  material: true,
  evolve(job, payload: DrillRecorded, event) {
    openPairing(job).drills[payload.without] = { ...payload, at: event.at, initials: event.actor.initials }
  },
  say(payload) {
    const said = `tried it with the ${drillWords[payload.without]}: ${drillSaid(payload)}`
    return payload.wall === 'fails' ? alarm(said) : said
  },
})
