import { accept, refuse } from '../../stream/envelope'
import { alarm, quoted } from '../../stream/telling'
import { end } from '../changes'
import { endOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { stopWords } from '../words'
import type { StopTold, TellStop } from './tell-stop.schema'

export const tellStop = siteCommand('tellStop', {
  kind: 'fact',
  queues: true,
  decide(site, command: TellStop, { actor }) {
    if (site.stop?.id !== command.stopId) return refuse('noSuchStop', 'Work here is not stopped.')
    // Nobody knows yet which circuit it was: nothing that was proven before counts.
    const power = command.what === 'voltage' || command.what === 'shock'
    const proofs = power ? Object.values(site.proofs).filter((proof) => proof.status !== 'void') : []
    return accept(stopTold({ ...command, ...endOf(site, proofs, actor) }))
  },
  label: () => 'what happened',
})

export const stopTold = siteEvent('stopTold', {
  evolve(site, payload: StopTold, event) {
    if (site.stop?.id === payload.stopId) Object.assign(site.stop, { what: payload.what, note: payload.note })
    end(site, payload, { code: 'workStopped', what: payload.what }, event)
  },
  say: (payload) => alarm(`reported what happened: ${stopWords[payload.what]}${quoted(payload.note)}`),
})
