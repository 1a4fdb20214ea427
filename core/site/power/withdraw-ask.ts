import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { noAsk } from '../refusals'
import type { AskWithdrawn, WithdrawAsk } from './withdraw-ask.schema'

export const withdrawAsk = siteCommand('withdrawAsk', {
  kind: 'work',
  by: 'owner',
  decide(site, command: WithdrawAsk, { actor }) {
    const ask = site.asks[command.askId]
    if (!ask) return noAsk()
    if (ask.personId !== actor.personId && actor.role !== 'lead') return refuse('notYours', `${ask.name} asked for this.`)
    if (ask.status !== 'asked')
      return refuse('alreadyGranted', 'The permit to close is already given.', 'Answer it, or open the {breaker} again to end this.')
    return accept(askWithdrawn(command))
  },
})

export const askWithdrawn = siteEvent('askWithdrawn', {
  evolve(site, payload: AskWithdrawn) {
    delete site.asks[payload.askId]
  },
  say: () => 'withdrew the request',
})
