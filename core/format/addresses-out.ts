import type { Addressed } from '../job'
import { writeRows } from './cells'

const reserved = (all: readonly Addressed[]) =>
  all.flatMap((one) => (one.kept ? [{ ...one, ...one.kept }] : [])).sort((a, b) => numberOf(a.address) - numberOf(b.address))
const numberOf = (address: string) => address.split('.').reduce((sum, part) => sum * 256 + Number(part), 0)

export const addressesCsv = (all: readonly Addressed[]): string =>
  writeRows(
    ['name', 'room', 'network', 'isolated', 'mac', 'address'],
    reserved(all).map(({ name, room, network, isolated, mac, address }) => ({
      name,
      room,
      network,
      isolated: isolated ? 'yes' : 'no',
      mac,
      address,
    })),
  )

/** A name as a network takes it: letters, digits and dashes, at most 63 (RFC 1123, 2.1). */
export const hostName = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 63)
    .replace(/-+$/, '')

/** The same for dnsmasq: one `dhcp-host` line each, hardware address, name, address (its manual page, from memory). No two of one name. */
export function dnsmasqHosts(all: readonly Addressed[]): string {
  const used = new Set<string>()
  const lines = reserved(all).map(({ name, mac, address }) => {
    const wanted = hostName(name) || `device-${address.replaceAll('.', '-')}`
    let host = wanted
    for (let count = 2; used.has(host); count++) host = `${wanted.slice(0, 60)}-${count}`
    used.add(host)
    return `dhcp-host=${mac},${host},${address}`
  })
  return lines.map((line) => `${line}\n`).join('')
}
