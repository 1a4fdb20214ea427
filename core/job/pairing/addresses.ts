import type { SiteState } from '../../site/state'
import type { JobState } from '../state'
import { pairingOf } from './pairing-of'

/** A device that is on the home’s network, and the address that is kept for it. */
export interface Addressed {
  id: string
  name: string
  room: string
  network: string
  isolated: boolean
  kept: { mac: string; address: string } | null
}
/** Hubs of the home and devices that joined its Wi-Fi, as addresses are kept for them. */
export function addressedIn(job: JobState, site: SiteState): Addressed[] {
  const kept = pairingOf(job).addresses
  const networks = Object.values(site.networks)
  const room = (id: string | null | undefined) => (id ? (site.rooms[id]?.name ?? '') : '')
  const hubs = networks
    .filter(({ kind }) => kind === 'hub')
    .map(({ networkId: id, name, roomId, isolated }) => ({ id, name, room: room(roomId), network: '', isolated, kept: kept[id] ?? null }))
  const units = Object.values(job.units)
    .filter(
      ({ removedAt, pairing, model }) => !removedAt && pairing?.result === 'joined' && model.radio !== 'mesh' && model.radio !== 'hub',
    )
    .map((unit) => {
      const network = unit.pairing!.network
      const isolated = networks.some((one) => one.kind !== 'hub' && one.name === network && one.isolated)
      return {
        ...{ id: unit.id, name: unit.name || unit.serial, room: room(site.boxes[unit.boxId]?.roomId), network, isolated },
        kept: kept[unit.id] ?? null,
      }
    })
  return [...hubs, ...units]
}
