import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { siteCommand, siteEvent } from '../define'
import { noAsk } from '../refusals'
import type { ClearTakenBack, TakeBackClear } from './take-back-clear.schema'

export const takeBackClear = siteCommand('takeBackClear', {
  kind: 'work',
  decide(site, command: TakeBackClear, { actor }) {
    const ask = site.asks[command.askId]
    if (!ask) return noAsk()
    if (ask.status !== 'asked')
      return refuse(
        'alreadyGranted',
        'The permit to close is already given: it counts as live.',
        'Stay clear until it is found open again.',
      )
    if (!ask.clear.some((person) => person.personId === actor.personId)) return refuse('notClear', 'You have not said clear.')
    return accept(clearTakenBack(command))
  },
})

export const clearTakenBack = siteEvent('clearTakenBack', {
  evolve(site, payload: ClearTakenBack, event) {
    const ask = site.asks[payload.askId]!
    ask.clear = ask.clear.filter((person) => person.personId !== event.actor.personId)
  },
  say: () => alarm('is no longer clear'),
})
