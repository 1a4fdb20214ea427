import { inTrade } from '../../units/trade-words'
import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { numberTaken, permitOn, tagsOn } from '../feeds'
import { breakerName } from '../names'
import { noBreaker } from '../refusals'
import { protectionWords } from '../survey-words'
import type { BreakerCorrected, CorrectBreaker } from './correct-breaker.schema'

export const correctBreaker = siteCommand('correctBreaker', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: CorrectBreaker) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    const renumbered = command.number !== undefined && command.number !== breaker.number
    if (renumbered) {
      if (numberTaken(site, breaker.panelId, command.number!, breaker.id))
        return refuse('nameTaken', `{Breaker} ${command.number} is on record there already.`, 'Correct that one first.')
      // A number is how people find the lever: under a tag it does not move to another one.
      const [tag] = tagsOn(site, breaker.id)
      if (tag)
        return refuse(
          'tagHangs',
          `The tag of ${tag.name} hangs on ${breakerName(site, breaker)}: under another number nobody would know which lever it is on.`,
          'Take the tag off first, then correct the number.',
        )
      const permit = permitOn(site, breaker.id)
      if (permit)
        return refuse(
          'grantOutstanding',
          `${permit.name} may be closing ${breakerName(site, breaker)} right now.`,
          'Have it answered first.',
        )
    }
    return accept(breakerCorrected({ ...command, was: breaker.number }))
  },
  label: ({ number }) => (number ? `{breaker} ${number} corrected` : '{breaker} corrected'),
})

export const breakerCorrected = siteEvent('breakerCorrected', {
  evolve(site, payload: BreakerCorrected, event) {
    const breaker = site.breakers[payload.breakerId]!
    const { breakerId: _, was: __, ...facts } = payload
    const renumbered = facts.number !== undefined && facts.number !== breaker.number
    Object.assign(breaker, facts)
    if (!renumbered) return
    // It is another lever now, as people read it: somebody has to look how that one stands, and what it feeds.
    breaker.state = 'unknown'
    breaker.since = event.receivedAt
    breaker.energisedSeq = event.seq
    breaker.stateSeq = event.seq
    for (const box of Object.values(site.boxes)) delete box.ruledOut[breaker.id]
  },
  say(payload, { site }) {
    const { schemeId } = site
    const parts = [
      ...(payload.number !== undefined && payload.number !== payload.was ? [`is ${payload.number}`] : []),
      ...(payload.poles !== undefined ? [`has ${payload.poles === 1 ? 'one pole' : `${payload.poles} poles`}`] : []),
      ...(payload.amps !== undefined ? [payload.amps === null ? 'has no rating on it' : `is rated ${payload.amps} A`] : []),
      ...(payload.labelAsFound !== undefined ? [payload.labelAsFound ? `is labelled “${payload.labelAsFound}”` : 'has no label'] : []),
      ...(payload.protection !== undefined ? [`protection: ${inTrade(protectionWords[payload.protection], schemeId)}`] : []),
    ]
    return `corrected ${inTrade('{breaker}', schemeId)} ${payload.was}: ${parts.join(', ') || 'as it was'}`
  },
})
