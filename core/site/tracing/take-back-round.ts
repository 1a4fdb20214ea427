import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { RoundTakenBack, TakeBackRound } from './take-back-round.schema'

export const takeBackRound = siteCommand('takeBackRound', {
  kind: 'work',
  decide(site, command: TakeBackRound) {
    if (site.huntRounds.length !== command.round)
      return refuse('noRound', `Round ${command.round} is not the newest any more.`, 'Look at what is stored now.')
    return accept(roundTakenBack(command))
  },
})

export const roundTakenBack = siteEvent('roundTakenBack', {
  evolve(site, _payload: RoundTakenBack) {
    site.huntRounds.pop()
  },
  say: (payload) => `took round ${payload.round} of the tracing back: it was seen wrong`,
})
