import { accept, refuse } from '../../stream/envelope'
import { hasAnswered } from '../changes'
import { siteCommand, siteEvent } from '../define'
import type { ConfirmStopped, StopConfirmed } from './confirm-stopped.schema'

export const confirmStopped = siteCommand('confirmStopped', {
  kind: 'fact',
  queues: true,
  ownPin: true,
  decide(site, _command: ConfirmStopped, { actor, basedOnSeq }) {
    const mine = Object.values(site.alarms).filter((alarm) => alarm.personId === actor.personId)
    if (mine.length === 0) return refuse('nothingToAnswer', 'No alarm waits for your answer.')
    if (mine.some((alarm) => alarm.seq > basedOnSeq)) return refuse('lateWord', 'Another alarm has come since.', 'Read it, then answer.')
    return accept(stopConfirmed({}))
  },
  label: () => 'stopped, hands out',
})

export const stopConfirmed = siteEvent('stopConfirmed', {
  evolve(site, _payload: StopConfirmed, event) {
    hasAnswered(site, event.actor.personId, null)
  },
  say: () => 'has stopped: hands out',
})
