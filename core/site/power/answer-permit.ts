import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { whenDone } from '../power-since'
import type { AnswerPermit, GrantAnswered } from './answer-permit.schema'

export const answerPermit = siteCommand('answerPermit', {
  kind: 'work',
  by: 'owner',
  queues: true,
  ownPin: true,
  decide(site, command: AnswerPermit, { actor }) {
    const permit = site.grants[command.grantId]
    if (!permit) return refuse('noSuchGrant', 'This request is no longer open.')
    // That it is closed anybody may say; that it will stay open only the hand that was allowed to close it.
    if (permit.personId !== actor.personId && command.answer === 'givenUp')
      return refuse(
        'notYours',
        `${permit.name} asked and has to answer.`,
        `${permit.name} answers on any device of the crew with their PIN. If they have left the building, a lead ends what they left open, on record.`,
      )
    return accept(grantAnswered({ ...command, breakerId: permit.breakerId }))
  },
})

export const grantAnswered = siteEvent('grantAnswered', {
  evolve(site, payload: GrantAnswered, event) {
    const permit = site.grants[payload.grantId]!
    delete site.grants[payload.grantId]
    const breaker = site.breakers[permit.breakerId]!
    const ask = permit.clearanceId ? site.asks[permit.clearanceId] : undefined
    if (payload.answer !== 'closed') {
      if (ask) delete site.asks[ask.id]
      return
    }
    if (ask) ask.status = 'live'
    if (breaker.state !== 'closed') breaker.closedBetween = whenDone(event)
    breaker.state = 'closed'
    breaker.since = event.at
    breaker.energisedSeq = event.seq
    breaker.stateSeq = event.seq
  },
  say: (payload, { breaker }) => `${payload.answer === 'closed' ? 'closed' : 'did not close'} ${breaker(payload.breakerId)}`,
})
