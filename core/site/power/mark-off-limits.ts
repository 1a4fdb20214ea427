import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { noBreaker } from '../refusals'
import type { MarkOffLimits, OffLimitsMarked } from './mark-off-limits.schema'

export const markOffLimits = siteCommand('markOffLimits', {
  kind: 'work',
  by: 'office',
  decide(site, command: MarkOffLimits, { actor }) {
    if (!site.breakers[command.breakerId]) return noBreaker()
    if (command.reason === null && actor.role !== 'lead' && actor.role !== 'dispatcher')
      return refuse('leadOnly', 'Only a lead or the dispatcher lifts a "do not open".', 'Ask the lead.')
    return accept(offLimitsMarked(command))
  },
})

export const offLimitsMarked = siteEvent('offLimitsMarked', {
  evolve(site, payload: OffLimitsMarked) {
    site.breakers[payload.breakerId]!.offLimits = payload.reason
  },
  say: (payload, { breaker }) =>
    payload.reason === null
      ? `lifted “do not open” from ${breaker(payload.breakerId)}`
      : `marked ${breaker(payload.breakerId)} “do not open” – ${payload.reason}`,
})
