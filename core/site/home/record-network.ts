import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { networkKindWords } from '../survey-words'
import type { NetworkRecorded, RecordNetwork } from './record-network.schema'

export const recordNetwork = siteCommand('recordNetwork', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: RecordNetwork) {
    // Two transmitters may send under one name; one thing under one name twice is a slip.
    const twin = Object.values(site.networks).some(
      (one) => one.networkId !== command.networkId && one.kind === command.kind && one.name === command.name && one.note === command.note,
    )
    if (twin)
      return refuse(
        'nameTaken',
        `There is ${networkKindWords[command.kind]} “${command.name}” already.`,
        'Say in its note where this one stands.',
      )
    return accept(networkRecorded(command))
  },
  label: ({ name }) => `network: ${name}`,
})

export const networkRecorded = siteEvent('networkRecorded', {
  // Nobody was asked for devices of a previous owner before.
  lifts: [(payload) => ({ bound: [], ...payload })],
  evolve(site, payload: NetworkRecorded, event) {
    site.networks[payload.networkId] = { ...payload, at: event.at }
  },
  say: (payload) =>
    `recorded ${networkKindWords[payload.kind]} “${payload.name}”${payload.bands.length ? `, ${payload.bands.join(' and ')} GHz` : ''}${payload.isolated ? ', isolated' : ''}${payload.bound.length ? `; still bound to a previous owner: ${payload.bound.join(', ')}` : ''}`,
})
