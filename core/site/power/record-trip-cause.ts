import { accept } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { noBreaker } from '../refusals'
import type { RecordTripCause, TripCauseRecorded } from './record-trip-cause.schema'

export const recordTripCause = siteCommand('recordTripCause', {
  kind: 'fact',
  queues: true,
  decide(site, command: RecordTripCause) {
    if (!site.breakers[command.breakerId]) return noBreaker()
    return accept(tripCauseRecorded(command))
  },
})

export const tripCauseRecorded = siteEvent('tripCauseRecorded', {
  evolve(site, payload: TripCauseRecorded) {
    const breaker = site.breakers[payload.breakerId]!
    breaker.tripCause = payload.cause
    breaker.tripUnexplained = false
  },
  say: (payload, { breaker }) => `recorded why ${breaker(payload.breakerId)} tripped – ${payload.cause}`,
})
