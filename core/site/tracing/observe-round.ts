import { accept, refuse } from '../../stream/envelope'
import { boxAt, end, leaveSign, signOfPower } from '../changes'
import { consequenceFor, noSign, signOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { markOf } from '../feeds'
import { withSign } from '../lifts'
import { breakerName, sentence } from '../names'
import { noBox } from '../refusals'
import { ended } from '../telling'
import type { ObserveRound, RoundSeen } from './observe-round.schema'

export const observeRound = siteCommand('observeRound', {
  kind: 'permission',
  decide(site, command: ObserveRound, { actor, basedOnSeq }) {
    const ids = Object.keys(command.seen)
    if (ids.some((id) => !site.boxes[id])) return noBox()
    const breakers = Object.values(site.breakers)
    const above = breakers.find((breaker) => breaker.role !== 'branch' && breaker.state !== 'closed')
    if (above)
      return refuse(
        'panelOff',
        `${sentence(breakerName(site, above))} is ${above.state}: no light says anything.`,
        `Close ${breakerName(site, above)}, or trace by day.`,
      )
    const moved = breakers.find((breaker) => breaker.stateSeq > basedOnSeq)
    if (moved || Object.keys(site.grants).length > 0)
      return refuse('stillMoving', '{Breakers} were moved since you looked.', 'Look at the lights again, then say what you see.')
    const doubtful = breakers.find((breaker) => breaker.state === 'unknown')
    if (doubtful) return refuse('stillMoving', `Position of ${breakerName(site, doubtful)} unknown.`, 'Somebody must look.')
    const open = breakers.filter((breaker) => breaker.state !== 'closed').map((breaker) => breaker.id)
    const on = ids.filter((id) => command.seen[id] !== 'off').map((id) => site.boxes[id]!)
    // On, with every feed on record open: something else feeds it, and whatever is not shown apart from it.
    const odd = on.find((box) => box.breakerIds.length > 0 && box.breakerIds.every((id) => open.includes(id)))
    const sign = odd ? signOf(site, odd, actor) : noSign
    const seen = consequenceFor(site, on, [], actor)
    return accept(
      roundSeen({
        ...command,
        open,
        ...sign,
        voids: [...new Set([...seen.voids, ...sign.voids])],
        alarms: [...new Set([...seen.alarms, ...sign.alarms])],
      }),
    )
  },
})

export const roundSeen = siteEvent('roundSeen', {
  lifts: [withSign],
  evolve(site, payload: RoundSeen, event) {
    site.huntRounds.push({ open: payload.open, seen: payload.seen })
    const open = new Set(payload.open)
    for (const [boxId, seen] of Object.entries(payload.seen)) {
      const { breakerIds } = boxAt(site, boxId)
      // On, with every feed on record open: something else feeds it.
      if (seen === 'on' && breakerIds.length > 0 && breakerIds.every((id) => open.has(id))) signOfPower(site, boxId, event)
    }
    const { reached } = payload
    if (reached.length === 0) return end(site, payload, { code: 'lightOn' }, event, { boxIds: Object.keys(payload.seen) })
    leaveSign(site, payload, { code: 'lightOn' }, event, {
      boxId: reached[0]!,
      what: 'round',
      pair: null,
      volts: null,
      impedance: null,
      instrumentId: null,
      proofId: null,
    })
  },
  say(payload, { site, box }) {
    const { open, seen, voids } = payload
    const off = Object.entries(seen).flatMap(([id, what]) => (what === 'off' ? [box(id)] : []))
    const part = Object.entries(seen).flatMap(([id, what]) => (what === 'part' ? [box(id)] : []))
    const on = Object.keys(seen).length - off.length - part.length
    return `saw, with ${open.map((id) => markOf(site, id)).join(', ') || 'nothing'} open: off ${off.join(', ') || 'none'};${part.length ? ` some off ${part.join(', ')};` : ''} on ${on}.${ended(voids)}`
  },
})
