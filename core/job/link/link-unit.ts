import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { causeOf } from '../pairing/case-of'
import { joiningOf } from '../pairing/pairing-of'
import { noUnit } from '../refusals'
import { madeAt } from '../touch'
import { pairingRecorded } from '../unit/record-pairing'
import { homeNetworkOf } from './home-network'
import type { LinkUnit, UnitLinked } from './link-unit.schema'
import { openLink } from './link-of'

/** The link has joined a device: it carries the installer now, and it is paired. */
export const linkUnit = jobCommand('linkUnit', {
  by: 'system',
  decide(job, command: LinkUnit, context) {
    const unit = job.units[command.unitId]
    if (!unit) return noUnit()
    const { dbm, network, ms } = command.device
    const linked = unitLinked(command)
    // What was paired by hand before is only asked by one more.
    if (unit.pairing?.result === 'joined' && joiningOf(job, unit.id).history.length === 0) return done(linked)
    const signal = dbm === null ? null : ({ kind: 'dbm', dbm } as const)
    const how = { network: network || homeNetworkOf(job, context.site), signal, note: '', seconds: Math.round(ms / 1000) }
    const cause = causeOf(job, context.site, unit)
    return done(linked, pairingRecorded({ unitId: unit.id, result: 'joined', ...how, madeAt: madeAt(context), cause }))
  },
})

export const unitLinked = jobEvent('unitLinked', {
  material: true,
  rows: true,
  evolve(job, { unitId, device }: UnitLinked, event) {
    const link = openLink(job)
    const { channels, vendor, product, serial } = device
    link.units[unitId] = { channels, vendor, product, serial, at: event.at, label: null }
    delete link.left[unitId]
    delete link.faults[unitId]
  },
  say: ({ unitId, device }, { unit }) => `joined ${unit(unitId)} over the link in ${(device.ms / 1000).toFixed(1)} s`,
})
