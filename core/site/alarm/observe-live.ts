import { accept } from '../../stream/envelope'
import { alarm, quoted } from '../../stream/telling'
import { boxAt, leaveSign, showedVoltage, signOfPower } from '../changes'
import { signOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { withSign } from '../lifts'
import { liveFromVolts } from '../reading'
import { noBox } from '../refusals'
import { ended } from '../telling'
import type { LiveObserved, ObserveLive } from './observe-live.schema'

export const observeLive = siteCommand('observeLive', {
  kind: 'fact',
  queues: true,
  decide(site, command: ObserveLive, { actor }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const high = command.what === 'meter' && command.impedance === 'high'
    // Below 50 V a high-impedance meter says nothing of other boxes: coupled voltage.
    const reach = command.what === 'tester' || (high && (command.volts ?? 0) < liveFromVolts) ? 'own' : 'all'
    return accept(liveObserved({ ...command, instrumentId: null, a: '', b: '', ...signOf(site, box, actor, { reach, suspense: high }) }))
  },
  label: () => 'voltage seen',
})

export const liveObserved = siteEvent('liveObserved', {
  lifts: [(payload) => withSign({ impedance: null, instrumentId: null, a: '', b: '', ...payload })],
  evolve(site, payload: LiveObserved, event) {
    const { boxId, what, volts, impedance, instrumentId, a, b } = payload
    if (!payload.suspense) signOfPower(site, boxId, event)
    if (a && b) showedVoltage(boxAt(site, boxId), a, b)
    const pair = a && b ? { a, b } : null
    leaveSign(site, payload, { code: 'voltageSeen' }, event, { boxId, what, pair, volts, impedance, instrumentId, proofId: null })
  },
  say: (payload, { box }) =>
    alarm(
      `saw voltage at ${box(payload.boxId)}${payload.volts === null ? '' : `: ${payload.volts} V`}${quoted(payload.note)}.${ended(payload.voids)}`,
    ),
})
