import { accept } from '../../stream/envelope'
import { alarm, quoted } from '../../stream/telling'
import { end } from '../changes'
import { endOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { ended } from '../telling'
import type { InstrumentFailed, NoteInstrumentFailed } from './note-instrument-failed.schema'
import { proofsWith } from './problems'

export const noteInstrumentFailed = siteCommand('noteInstrumentFailed', {
  kind: 'work',
  by: 'system',
  decide(site, command: NoteInstrumentFailed, { actor }) {
    return accept(instrumentFailed({ ...command, ...endOf(site, proofsWith(site, command.instrumentId), actor) }))
  },
})

export const instrumentFailed = siteEvent('instrumentFailed', {
  evolve(site, payload: InstrumentFailed, event) {
    site.failedInstruments[payload.instrumentId] = { name: payload.name, at: event.receivedAt }
    end(site, payload, { code: 'instrumentFailed', name: payload.name }, event)
  },
  say: (payload) => alarm(`${payload.name} failed${quoted(payload.why)}.${ended(payload.voids)}`),
})
