import { refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import { causeOf } from '../pairing/case-of'
import { joiningOf } from '../pairing/pairing-of'
import { endTry } from '../pairing/end-try'
import { madeAt } from '../touch'
import type { PairingRecorded, RecordPairing } from './record-pairing.schema'

export const recordPairing = jobCommand('recordPairing', {
  by: 'crew',
  queues: true,
  decide(job, command: RecordPairing, context) {
    const unit = job.units[command.unitId]
    if (!unit || unit.removedAt) return noUnit()
    if (unit.model.setupCode === 'none') return refuse('nothingToPair', `${unit.model.name} does not pair with a network.`)
    if (command.result === 'joined' && (command.network === '' || command.signal === null))
      return refuse('signalMissing', 'Note the network and the Wi-Fi level at the device.', 'dBm if the app shows it, else bars.')
    if (command.result === 'failed' && command.note.length < 3) return refuse('noteMissing', 'Note what the device or the app showed.')
    const at = madeAt(context)
    const { open } = joiningOf(job, unit.id)
    const seconds = command.result === 'joined' && open ? Math.max(0, Math.round((Date.parse(at) - Date.parse(open.at)) / 1000)) : null
    const cause = command.result === 'joined' ? causeOf(job, context.site, unit) : null
    return done(pairingRecorded({ ...command, madeAt: at, seconds, cause }))
  },
  label: (submission) => `pairing ${submission.result}`,
})

export const pairingRecorded = jobEvent('pairingRecorded', {
  material: true,
  lifts: [(payload) => ({ madeAt: null, seconds: null, cause: null, ...payload })],
  rows: true,
  evolve(job, payload: PairingRecorded) {
    const unit = job.units[payload.unitId]!
    const { result, network, signal, note } = payload
    endTry(job, payload)
    unit.pairing = { result, network, signal, note, attempts: (unit.pairing?.attempts ?? 0) + 1 }
  },
  say(payload, { unit }) {
    const { result, network, signal, note, unitId } = payload
    return result === 'joined'
      ? `paired ${unit(unitId)}${network && ` on ${network}`}${signal ? (signal.kind === 'dbm' ? ` at ${signal.dbm} dBm` : ` with ${signal.bars} bars`) : ''}`
      : alarm(`${unit(unitId)} failed to pair – ${note}`)
  },
})
