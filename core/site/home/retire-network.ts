import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { NetworkRetired, RetireNetwork } from './retire-network.schema'

export const retireNetwork = siteCommand('retireNetwork', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: RetireNetwork) {
    const known = site.networks[command.networkId]
    if (!known) return refuse('noSuchNetwork', 'There is no such network at this site.')
    return accept(networkRetired({ ...command, name: known.name }))
  },
  label: () => 'network taken off',
})

export const networkRetired = siteEvent('networkRetired', {
  evolve(site, payload: NetworkRetired) {
    delete site.networks[payload.networkId]
  },
  say: (payload) => `took the network “${payload.name}” off the record`,
})
