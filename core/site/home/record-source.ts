import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { end } from '../changes'
import { consequenceOfPath } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { ended } from '../telling'
import type { RecordSource, SourceRecorded } from './record-source.schema'

export const recordSource = siteCommand('recordSource', {
  kind: 'fact',
  queues: true,
  decide(site, command: RecordSource, { actor }) {
    if (site.sources[command.sourceId]) return refuse('sourceExists', 'This source is on record already.')
    return accept(sourceRecorded({ ...command, ...consequenceOfPath(site, Object.values(site.boxes), [], actor) }))
  },
  label: () => 'another source found',
})

export const sourceRecorded = siteEvent('sourceRecorded', {
  evolve(site, payload: SourceRecorded, event) {
    const { sourceId: id, kind, name } = payload
    site.sources[id] = { id, kind, name, ruledOut: null }
    end(site, payload, { code: 'sourceFound', name }, event, { boxIds: Object.keys(site.boxes) })
  },
  say: (payload) => alarm(`found another source: ${payload.name} (${payload.kind}).${ended(payload.voids)}`),
})
