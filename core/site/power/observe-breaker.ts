import type { WhyEnded } from '../words'
import { accept, type StreamEvent } from '../../stream/envelope'
import { alarm, quoted } from '../../stream/telling'
import { end } from '../changes'
import { consequenceFor, nothingEnds } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { boxesReached, permitOn } from '../feeds'
import { minutesBetween } from '../permissions'
import { earlierOf, whenDone } from '../power-since'
import { noBreaker } from '../refusals'
import type { BreakerRecord, SiteState } from '../state'
import { ended } from '../telling'
import type { BreakerObserved, ObserveBreaker } from './observe-breaker.schema'

/** The lever was found closed: whatever hangs there did not hold it. */
function defeatTags(site: SiteState, breakerId: string): void {
  for (const tag of Object.values(site.tags)) if (tag.breakerId === breakerId) tag.defeated = true
}

/** An opening is reported within this time, minutes: what was ruled out in it is in doubt. Common practice, no source. */
const reportMinutes = 10

/**
 * A breaker is off: since when? Found so, nobody knows, and no box proven meanwhile has ruled it out. Opened by the
 * reporter: what was ruled out after the last they knew of, or a short time ago, may have been after the lever moved.
 */
function doubtRuledOut(site: SiteState, payload: { breakerId: string; how: 'did' | 'found'; knewSeq: number }, event: StreamEvent): void {
  for (const one of Object.values(site.boxes)) {
    const ruled = one.ruledOut[payload.breakerId]
    if (!ruled) continue
    const fresh = minutesBetween(ruled.at, event.receivedAt) < reportMinutes
    if (payload.how === 'found' || ruled.seq > payload.knewSeq || fresh) delete one.ruledOut[payload.breakerId]
  }
}

/** Since when the power is on: what was closed before stays as it is, however often it is looked at. */
function noteClosing(breaker: BreakerRecord, { state, how }: BreakerObserved, event: StreamEvent): void {
  if (state !== 'closed' || breaker.state === 'closed') return
  const { from, to } = whenDone(event)
  breaker.closedBetween = { from: how === 'did' ? from : breaker.since && earlierOf(breaker.since, from), to }
}

export const observeBreaker = siteCommand('observeBreaker', {
  kind: 'fact',
  queues: true,
  decide(site, command: ObserveBreaker, { actor, basedOnSeq }) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    const grantHeld = permitOn(site, breaker.id) !== undefined
    // A fact is always taken. One that would make things safer counts only if its maker knew of the last
    // sign of power, and while nobody holds a permit to close this breaker.
    const late = command.state === 'open' && (basedOnSeq < breaker.energisedSeq || grantHeld)
    // Whoever opens a lever that the record has open found it closed: somebody had closed it meanwhile.
    const again = command.state === 'open' && command.how === 'did' && breaker.state === 'open'
    const consequence =
      command.state === 'open' && !again ? nothingEnds : consequenceFor(site, boxesReached(site, breaker.id), [breaker.id], actor)
    return accept(breakerObserved({ ...command, late, again, knewSeq: basedOnSeq, ...consequence }))
  },
  label: (submission) => `{breaker} ${submission.how === 'found' ? 'found ' : ''}${submission.state}`,
})

export const breakerObserved = siteEvent('breakerObserved', {
  lifts: [(payload) => ({ ...payload, how: payload.note === 'found' ? 'found' : 'did', again: false, knewSeq: 0 })],
  evolve(site, payload: BreakerObserved, event) {
    const breaker = site.breakers[payload.breakerId]!
    if (payload.state === 'tripped') {
      breaker.tripUnexplained = true
      breaker.tripCause = null
    }
    if (!payload.late) {
      noteClosing(breaker, payload, event)
      breaker.state = payload.state
      breaker.since = event.at
      breaker.stateSeq = event.seq
    }
    if (payload.state === 'open' && !payload.late) {
      // What was closed for a moment is open again: the ask is done.
      for (const ask of Object.values(site.asks))
        if (ask.breakerId === breaker.id && (ask.kind === 'open' || ask.status === 'live')) delete site.asks[ask.id]
    }
    if (payload.state !== 'closed') doubtRuledOut(site, payload, event)
    // Only "open" makes anything safer; every other finding ends what was built on the old one.
    if (payload.state !== 'open' || payload.again) breaker.energisedSeq = event.seq
    if (payload.state !== 'open' || payload.again) defeatTags(site, breaker.id)
    const why: WhyEnded = payload.again
      ? { code: 'breakerHadBeenClosed', breakerId: breaker.id }
      : { code: 'breakerFound', breakerId: breaker.id, state: payload.state }
    const boxIds = payload.alarms.length ? Object.keys(site.boxes) : []
    end(site, payload, why, event, { boxIds, breakerId: breaker.id })
  },
  say(payload, { breaker }) {
    const { state, late, again, note, voids, breakerId } = payload
    const found = again ? `opened ${breaker(breakerId)}, which had been closed meanwhile` : `found ${breaker(breakerId)} ${state}`
    const text = `${found}${late ? ' (arrived late: changes nothing)' : ''}${quoted(note)}.${ended(voids)}`
    return voids.length && (state !== 'open' || again) ? alarm(text) : text
  },
})
