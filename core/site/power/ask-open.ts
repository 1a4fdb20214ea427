import { accept, refuse } from '../../stream/envelope'
import { quoted } from '../../stream/telling'
import { addAsk } from '../changes'
import { siteCommand, siteEvent } from '../define'
import { breakerName, sentence } from '../names'
import { noBreaker } from '../refusals'
import type { AskOpen, OpenAsked } from './ask-open.schema'

export const askOpen = siteCommand('askOpen', {
  kind: 'permission',
  decide(site, command: AskOpen) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    if (site.asks[command.askId]) return refuse('askExists', 'This request is already known.')
    if (breaker.state === 'open')
      return refuse('alreadyOpen', `${sentence(breakerName(site, breaker))} is already open.`, 'Hang your tag on it.')
    if (breaker.offLimits)
      return refuse(
        'offLimits',
        `${sentence(breakerName(site, breaker))}: do not open. ${breaker.offLimits}`,
        'A lead or the dispatcher can lift that.',
      )
    if (Object.values(site.asks).some((ask) => ask.kind === 'open' && ask.breakerId === breaker.id))
      return refuse('alreadyAsked', `Somebody has already asked to have ${breakerName(site, breaker)} opened.`)
    return accept(openAsked(command))
  },
})

export const openAsked = siteEvent('openAsked', {
  evolve(site, payload: OpenAsked, event) {
    addAsk(site, payload, event, 'open', null)
  },
  say: (payload, { breaker, box }) =>
    `asked to have ${breaker(payload.breakerId)} opened${payload.boxId ? ` for ${box(payload.boxId)}` : ''}${quoted(payload.note)}`,
})
