import { accept, refuse } from '../../stream/envelope'
import { end } from '../changes'
import { endOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { boxesReached } from '../feeds'
import { canClose, canEnergise, loneWorkOf } from '../permissions'
import { proofsIn } from '../proofs'
import { refuseAnswer } from '../refusals'
import { ended } from '../telling'
import type { CloseGranted, RequestClose } from './request-close.schema'

/** A permit to close is used within this time or asked for again, minutes. Common practice, no source. */
export const grantMinutes = 5

export const requestClose = siteCommand('requestClose', {
  kind: 'permission',
  givesUp: true,
  decide(site, command: RequestClose, { actor, now }) {
    const answer = command.clearanceId ? canEnergise(site, command.clearanceId, actor) : canClose(site, command.breakerId, actor)
    if (!answer.yes) return refuseAnswer(answer)
    if (command.clearanceId && site.asks[command.clearanceId]!.breakerId !== command.breakerId)
      return refuse('otherBreaker', 'Everyone said clear for another {breaker}.')
    if (site.grants[command.grantId]) return refuse('grantExists', 'This request is already known.')
    if (loneWorkOf(site, actor.personId, { now }).overdue)
      return refuse('checkInDue', 'Your check-in is overdue.', 'Check in with your contact, then close.')
    const expiresAt = new Date(Date.parse(now) + grantMinutes * 60_000).toISOString()
    const { voids, alarms } = endOf(site, proofsIn(site, boxesReached(site, command.breakerId)), actor)
    // Whoever said clear knows of it and has stepped back.
    const clear = site.asks[command.clearanceId ?? '']?.clear ?? []
    return accept(
      closeGranted({ ...command, expiresAt, voids, alarms: alarms.filter((id) => !clear.some((person) => person.personId === id)) }),
    )
  },
})

export const closeGranted = siteEvent('closeGranted', {
  hands: true,
  lifts: [(payload) => ({ ...payload, clearanceId: null, expiresAt: null })],
  evolve(site, payload: CloseGranted, event) {
    site.grants[payload.grantId] = {
      id: payload.grantId,
      breakerId: payload.breakerId,
      personId: event.actor.personId,
      name: event.actor.name,
      grantedAt: event.receivedAt,
      expiresAt: payload.expiresAt,
      clearanceId: payload.clearanceId,
    }
    const ask = payload.clearanceId ? site.asks[payload.clearanceId] : undefined
    if (ask) ask.status = 'granted'
    site.breakers[payload.breakerId]!.energisedSeq = event.seq
    end(site, payload, { code: 'leaveGiven', breakerId: payload.breakerId }, event, {
      breakerId: payload.breakerId,
    })
  },
  say: (payload, { breaker }) => `got a permit to close ${breaker(payload.breakerId)}: it counts as live.${ended(payload.voids)}`,
})
