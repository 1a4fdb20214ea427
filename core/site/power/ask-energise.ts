import { accept, refuse } from '../../stream/envelope'
import { quoted } from '../../stream/telling'
import { addAsk } from '../changes'
import { siteCommand, siteEvent } from '../define'
import { breakerName, sentence } from '../names'
import { notYetClear, loneWorkOf } from '../permissions'
import { noBreaker } from '../refusals'
import { energiseWords } from '../words'
import type { AskEnergise, EnergiseAsked } from './ask-energise.schema'

export const askEnergise = siteCommand('askEnergise', {
  kind: 'permission',
  decide(site, command: AskEnergise, { actor, now }) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    if (site.asks[command.askId]) return refuse('askExists', 'This request is already known.')
    if (!actor.licensed)
      return refuse('licenceNeeded', 'Closing {a breaker} on open boxes needs a licence.', 'A licensed crew mate must ask for it.')
    if (breaker.state !== 'open')
      return refuse(
        'notOpen',
        `${sentence(breakerName(site, breaker))} is ${breaker.state}.`,
        'Only an open {breaker} is closed for a moment.',
      )
    const known = Object.values(site.asks).find((ask) => ask.kind === 'energise' && ask.breakerId === breaker.id)
    if (known)
      return refuse(
        'alreadyAsked',
        `${known.name} already asked for power on ${breakerName(site, breaker)}.`,
        'Use theirs, or have them withdraw it.',
      )
    if (breaker.tripUnexplained)
      return refuse(
        'tripUnexplained',
        `${sentence(breakerName(site, breaker))} tripped and nobody recorded why.`,
        'Find and record the cause of the trip.',
      )
    if (loneWorkOf(site, actor.personId, { now }).overdue)
      return refuse('checkInDue', 'Your check-in is overdue.', 'Check in with your contact first.')
    const asks = notYetClear(site, { breakerId: breaker.id, clear: [] }).map((person) => person.personId)
    return accept(energiseAsked({ ...command, asks: asks.filter((id) => id !== actor.personId) }))
  },
})

export const energiseAsked = siteEvent('energiseAsked', {
  evolve(site, payload: EnergiseAsked, event) {
    addAsk(site, payload, event, 'energise', payload.purpose)
  },
  say: (payload, { breaker }) =>
    `asked everyone to stand clear: ${breaker(payload.breakerId)} on for a moment, ${energiseWords[payload.purpose]}${quoted(payload.note)}`,
})
