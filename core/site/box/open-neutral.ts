import { accept, refuse } from '../../stream/envelope'
import { boxAt } from '../changes'
import { siteCommand, siteEvent } from '../define'
import { isKnownLive } from '../feeds'
import { breakerName, sentence } from '../names'
import { canTouch, isIsolatedFor } from '../permissions'
import { noBox, noBreaker, refuseAnswer } from '../refusals'
import type { NeutralParted, OpenNeutral } from './open-neutral.schema'

/** A clamp that shows less than this counts as no current, A. Common practice, no source. */
export const noCurrentBelowAmps = 0.1

export const openNeutral = siteCommand('openNeutral', {
  kind: 'work',
  queues: true,
  decide(site, command: OpenNeutral, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const touch = canTouch(site, box.id, context.actor, context)
    if (!touch.yes) return refuseAnswer(touch)
    if (box.parted.some((part) => part.id === command.partId)) return refuse('partExists', 'This neutral is already recorded as open.')
    const { basis } = command
    if (box.shifted.length > 0)
      return refuse(
        'neutralShifted',
        `${box.shifted.join(', ')} ${box.shifted.length === 1 ? 'reads' : 'read'} what the neutral of the supply reads: current of other circuits flows in it.`,
        'Leave its splice closed. Opening it needs its neutral pole open and tagged too: call the licensed lead.',
      )
    if (basis.kind === 'clamp' && basis.amps >= noCurrentBelowAmps)
      return refuse(
        'neutralCarries',
        `The neutral carries ${basis.amps} A: another circuit uses it. Once opened, its far end is live.`,
        'Find the partner circuit, record the shared neutral, open and tag its {breaker} too.',
      )
    if (basis.kind === 'clamp' && !basis.loadsOn)
      return refuse(
        'loadsOff',
        'A clamp reading of zero proves nothing while loads are off.',
        'Have lamps and loads of the other circuits switched on, then clamp again.',
      )
    const tied = site.neutralTies.filter((tie) => tie.some((id) => box.breakerIds.includes(id))).flat()
    for (const id of new Set(tied)) {
      const partner = isIsolatedFor(site, { ...box, breakerIds: [id], unknownFeed: false }, context.actor.personId)
      if (!partner.yes)
        return refuse(
          'partnerNotOpen',
          `${sentence(breakerName(site, site.breakers[id]!))} shares this neutral and is not open with your tag.`,
          partner.toYes,
        )
    }
    if (basis.kind === 'partnersOpen') {
      for (const id of basis.breakerIds) {
        const partner = site.breakers[id]
        if (!partner) return noBreaker()
        const isolation = isIsolatedFor(site, { ...box, breakerIds: [id], unknownFeed: false }, context.actor.personId)
        if (!isolation.yes)
          return refuse('partnerNotOpen', `${sentence(breakerName(site, partner))} is not open with your tag.`, isolation.toYes)
      }
      // "Suspected partners" are all that carry power and are not known to be apart: with none named a clamp is needed.
      const live = Object.values(site.breakers).filter(
        (breaker) => breaker.role === 'branch' && isKnownLive(site, breaker) && !basis.breakerIds.includes(breaker.id),
      )
      if (live.length > 0 && box.unknownFeed)
        return refuse(
          'partnersUnknown',
          'The feeds of this box are not known, so neither are the circuits that share its neutral.',
          'Measure with a clamp, or open the {main}.',
        )
    }
    return accept(neutralParted(command))
  },
})

export const neutralParted = siteEvent('neutralParted', {
  evolve(site, payload: NeutralParted, event) {
    boxAt(site, payload.boxId).parted.push({ id: payload.partId, what: payload.what, by: event.actor.initials, tested: false })
  },
  say: (payload, { breaker, box }) =>
    `opened the neutral “${payload.what}” at ${box(payload.boxId)} (${payload.basis.kind === 'clamp' ? `clamp ${payload.basis.amps} A` : `${payload.basis.breakerIds.map(breaker).join(', ')} open`})`,
})
