import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { AnswerGrant, GrantAnswered } from './answer-grant.schema'

export const answerGrant = siteCommand('answerGrant', {
  kind: 'work',
  by: 'owner',
  queues: true,
  ownPin: true,
  decide(site, command: AnswerGrant, { actor }) {
    const grant = site.grants[command.grantId]
    if (!grant) return refuse('noSuchGrant', 'This request is no longer open.')
    // That it is closed anybody may say; that it will stay open only the hand that was allowed to close it.
    if (grant.personId !== actor.personId && command.answer === 'givenUp')
      return refuse(
        'notYours',
        `${grant.name} asked and has to answer.`,
        `${grant.name} answers on any device of the crew with their PIN. If they have left the building, a lead ends what they left open, on record.`,
      )
    return accept(grantAnswered({ ...command, breakerId: grant.breakerId }))
  },
})

export const grantAnswered = siteEvent('grantAnswered', {
  evolve(site, payload: GrantAnswered, event) {
    const grant = site.grants[payload.grantId]!
    delete site.grants[payload.grantId]
    const breaker = site.breakers[grant.breakerId]!
    const ask = grant.clearanceId ? site.asks[grant.clearanceId] : undefined
    if (payload.answer !== 'closed') {
      if (ask) delete site.asks[ask.id]
      return
    }
    if (ask) ask.status = 'live'
    breaker.state = 'closed'
    breaker.since = event.at
    breaker.energisedSeq = event.seq
    breaker.stateSeq = event.seq
  },
  say: (payload, { breaker }) => `${payload.answer === 'closed' ? 'closed' : 'did not close'} ${breaker(payload.breakerId)}`,
})
