import { accept, refuse } from '../../stream/envelope'
import { nothingEnds } from '../consequence'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import { mainBreakers } from '../feeds'
import type { RecordSourcePoint, SourcePointRecorded } from './record-source-point.schema'

export const recordSourcePoint = siteCommand('recordSourcePoint', {
  kind: 'work',
  decide(site, command: RecordSourcePoint, context) {
    const source = site.sources[command.sourceId]
    if (!source) return refuse('noSuchSource', 'There is no such source at this site.')
    if (!site.panels[command.panelId]) return refuse('noSuchPanel', 'There is no such {panel} at this site.')
    if (site.breakers[command.breakerId]) return refuse('breakerExists', 'This {breaker} is on record already.')
    if (!context.actor.licensed)
      return refuse('licenceNeeded', 'Only a licensed person records where a source is switched off.', 'Ask a licensed crew mate.')
    if (waited(context)) return refuse('onlineOnly', 'This was entered without network.', 'Look again, then record it.')
    if (mainBreakers(site).some((main) => main.number.toLowerCase() === command.number.toLowerCase() && main.panelId === command.panelId))
      return refuse('nameTaken', `{A main} ${command.number} is on record there already.`, 'Give this one its own name.')
    return accept(sourcePointRecorded({ ...command, ...nothingEnds }))
  },
})

export const sourcePointRecorded = siteEvent('sourcePointRecorded', {
  evolve(site, payload: SourcePointRecorded, event) {
    site.breakers[payload.breakerId] = {
      id: payload.breakerId,
      panelId: payload.panelId,
      role: 'main',
      sourceId: payload.sourceId,
      suppliesPanelId: payload.panelId,
      number: payload.number,
      poles: 1,
      amps: null,
      labelAsFound: '',
      // Nobody has looked at its lever for the record yet.
      state: 'unknown',
      offLimits: null,
      protection: 'unknown',
      since: null,
      tripCause: null,
      tripUnexplained: false,
      energisedSeq: event.seq,
      stateSeq: event.seq,
    }
  },
  say: (payload, { site }) =>
    `recorded where ${site.sources[payload.sourceId]?.name ?? 'a source'} is switched off: ${payload.number} – ${payload.basis}`,
})
