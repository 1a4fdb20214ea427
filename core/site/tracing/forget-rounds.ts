import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { ForgetRounds, RoundsForgotten } from './forget-rounds.schema'

export const forgetRounds = siteCommand('forgetRounds', {
  kind: 'work',
  decide(site, command: ForgetRounds, { actor }) {
    if (!actor.licensed) return refuse('licenceNeeded', 'Only a licensed person starts circuit tracing over.', 'Ask one.')
    return accept(roundsForgotten(command))
  },
})

export const roundsForgotten = siteEvent('roundsForgotten', {
  evolve(site, _payload: RoundsForgotten) {
    site.huntRounds = []
  },
  say: (payload) => `started circuit tracing over – ${payload.reason}`,
})
