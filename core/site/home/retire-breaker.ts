import { accept, refuse } from '../../stream/envelope'
import { waited } from '../context'
import { siteCommand, siteEvent } from '../define'
import { permitOn, tagsOn } from '../feeds'
import { breakerName, sentence } from '../names'
import { boxName } from '../proofs'
import { noBreaker } from '../refusals'
import type { BreakerRetired, RetireBreaker } from './retire-breaker.schema'

/** Listed twice, or not there at all. What takes a path away is for a licensed person, as things are now. */
export const retireBreaker = siteCommand('retireBreaker', {
  kind: 'work',
  by: 'office',
  decide(site, command: RetireBreaker, context) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    const what = sentence(breakerName(site, breaker))
    if (!context.actor.licensed)
      return refuse('licenceNeeded', 'Only a licensed person takes {a breaker} off the record.', 'Ask a licensed crew mate.')
    if (waited(context)) return refuse('onlineOnly', 'This was entered without network.', 'Look at the {panel} again, then record it.')
    if (breaker.role !== 'branch') return refuse('feedsPanel', `${what} feeds {a panel}: it stays on record.`)
    const box = Object.values(site.boxes).find((one) => one.breakerIds.includes(breaker.id))
    if (box) return refuse('breakerInUse', `${what} is a feed of ${boxName(site, box)}.`, 'Set the feeds of that box right first.')
    if (site.neutralTies.some((tie) => tie.includes(breaker.id)))
      return refuse('breakerInUse', `${what} shares a neutral with another circuit on record: it stays.`)
    if (
      tagsOn(site, breaker.id).length ||
      permitOn(site, breaker.id) ||
      Object.values(site.asks).some((ask) => ask.breakerId === breaker.id)
    )
      return refuse('breakerInUse', `A tag or a request is on ${breakerName(site, breaker)}.`, 'That is ended first.')
    if (Object.values(site.proofs).some((proof) => proof.status !== 'void' && proof.sourceBreakerId === breaker.id))
      return refuse('breakerInUse', `A tester was proved on ${breakerName(site, breaker)}: that proof is ended first.`)
    if (site.huntRounds.length > 0)
      return refuse('breakerInUse', 'Circuits are being traced with it.', 'Finish the tracing, or clear its rounds, first.')
    return accept(breakerRetired(command))
  },
})

export const breakerRetired = siteEvent('breakerRetired', {
  evolve(site, payload: BreakerRetired, event) {
    const breaker = site.breakers[payload.breakerId]!
    site.retired[breaker.id] = { what: 'breaker', name: breaker.number, by: event.actor.name, at: event.receivedAt, reason: payload.reason }
    delete site.breakers[breaker.id]
    for (const box of Object.values(site.boxes)) delete box.ruledOut[breaker.id]
  },
  say: (payload, { breaker }) => `took ${breaker(payload.breakerId)} off the record – ${payload.reason}`,
})
