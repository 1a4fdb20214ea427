import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { tagsOn } from '../feeds'
import { noAsk } from '../refusals'
import type { ClearConfirmed, ConfirmClear } from './confirm-clear.schema'

export const confirmClear = siteCommand('confirmClear', {
  kind: 'permission',
  by: 'owner',
  ownPin: true,
  givesUp: true,
  decide(site, command: ConfirmClear, { actor, basedOnSeq }) {
    const ask = site.asks[command.askId]
    if (!ask || ask.kind !== 'energise') return noAsk()
    if (ask.status !== 'asked') return refuse('alreadyGranted', 'The permit to close is already given.')
    if (basedOnSeq < ask.askedSeq) return refuse('lateWord', 'You said clear before it was asked.', 'Read the request, then say clear.')
    if (ask.clear.some((person) => person.personId === actor.personId)) return refuse('alreadyClear', 'You have already said clear.')
    const tagIds = tagsOn(site, ask.breakerId)
      .filter((tag) => tag.personId === actor.personId && !tag.company)
      .map((tag) => tag.id)
    return accept(clearConfirmed({ ...command, breakerId: ask.breakerId, tagIds }))
  },
})

export const clearConfirmed = siteEvent('clearConfirmed', {
  hands: true,
  evolve(site, payload: ClearConfirmed, event) {
    const { personId, initials } = event.actor
    site.asks[payload.askId]!.clear.push({ personId, initials })
    for (const id of payload.tagIds) site.tags[id]!.suspendedFor = payload.askId
  },
  say: (payload, { breaker }) => `said clear of ${breaker(payload.breakerId)}${payload.tagIds.length ? '; the tag is suspended' : ''}`,
})
