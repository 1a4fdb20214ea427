import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { numberTaken } from '../feeds'
import type { BreakerRecorded, RecordBreaker } from './record-breaker.schema'

export const recordBreaker = siteCommand('recordBreaker', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: RecordBreaker) {
    if (site.breakers[command.breakerId]) return refuse('breakerExists', 'This {breaker} is on record already.')
    if (command.panelId !== null && !site.panels[command.panelId]) return refuse('noSuchPanel', 'There is no such {panel} at this site.')
    if (numberTaken(site, command.panelId, command.number))
      return refuse(
        'nameTaken',
        `{Breaker} ${command.number} is on record there already.`,
        'Use that one. Two in one slot are written 7a and 7b.',
      )
    // Nothing is known to hang on it, and no box has been shown not to: closing it later asks for every one of them.
    return accept(breakerRecorded(command))
  },
  label: ({ number }) => `{breaker} ${number}`,
})

export const breakerRecorded = siteEvent('breakerRecorded', {
  evolve(site, payload: BreakerRecorded, event) {
    const { breakerId: id, ...facts } = payload
    site.breakers[id] = {
      ...facts,
      id,
      role: 'branch',
      sourceId: null,
      suppliesPanelId: null,
      offLimits: null,
      since: event.receivedAt,
      tripCause: null,
      tripUnexplained: payload.state === 'tripped',
      energisedSeq: event.seq,
      stateSeq: event.seq,
    }
  },
  say: (payload, { breaker }) =>
    `found ${breaker(payload.breakerId)}${payload.labelAsFound ? `, labelled “${payload.labelAsFound}”` : ', without a label'}, ${payload.state === 'unknown' ? 'position not looked at' : payload.state}`,
})
