import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { addressedIn } from './addresses'
import { openPairing } from './pairing-of'
import type { AddressReserved, ReserveAddress } from './reserve-address.schema'

/** An address that the router is to keep for a hub or a relay, so that it is found again. */
export const reserveAddress = jobCommand('reserveAddress', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: ReserveAddress, { site }) {
    const all = addressedIn(job, site)
    if (!all.some(({ id }) => id === command.deviceId)) return refuse('noSuchDevice', 'There is no such device, or it is on no network.')
    const taken = (what: 'mac' | 'address') =>
      all.find((one) => one.id !== command.deviceId && one.kept && command[what] && one.kept[what] === command[what])
    const same = taken('mac') ?? taken('address')
    if (same && command.address)
      return refuse('addressTaken', `${same.name} has ${taken('mac') ? 'this hardware address' : 'this address'} already.`)
    const [first, , , last] = command.address.split('.').map(Number)
    if (command.address && (first === 127 || first === 0 || first! >= 224 || last === 0 || last === 255))
      return refuse('noHostAddress', `${command.address} is no address that a device can have.`)
    return done(addressReserved(command))
  },
  label: ({ address }) => (address ? `address ${address}` : 'address taken back'),
})

export const addressReserved = jobEvent('addressReserved', {
  evolve(job, { deviceId, mac, address }: AddressReserved) {
    const kept = openPairing(job).addresses
    if (address) kept[deviceId] = { mac, address }
    else delete kept[deviceId]
  },
  say: ({ deviceId, address }, { job, unit }) => {
    const name = job.units[deviceId] ? unit(deviceId) : 'a hub'
    return address ? `reserved ${address} for ${name}` : `took the reserved address of ${name} back`
  },
})
