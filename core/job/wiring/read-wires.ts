import { counted } from '../../units/counted'
import { canMeasure, isEnergised } from '../../site/permissions'
import { refuse } from '../../stream/envelope'
import { readingWord } from '../../wiring/identify/found-box'
import { asFoundBoxOf, wiringOf } from '../box-wiring'
import { wiringOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { boxOf, noBox } from '../refusals'
import { touchOrRefuse } from '../touch'
import type { ReadWires, WiresRead } from './read-wires.schema'

export const readWires = jobCommand('readWires', {
  by: 'crew',
  queues: true,
  decide(job, command: ReadWires, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const notes = wiringOf(job, box.id).notes
    if (!notes) return refuse('notDescribed', 'The box is not described yet.', 'Note its splices and old terminals first.')
    const found = asFoundBoxOf(context.site, box, notes)
    if (!found.ok) return refuse('boxTooUnknown', found.reason)
    const letters = new Set(box.conductors.map((conductor) => conductor.letter))
    const on = new Set(
      box.breakerIds.flatMap((id) => {
        const breaker = context.site.breakers[id]
        return breaker && isEnergised(context.site, breaker) ? [breaker.number] : []
      }),
    )
    for (const reading of command.readings) {
      const stranger = [reading.a, reading.b].find((end) => end !== 'REF' && !letters.has(end))
      if (stranger || reading.a === reading.b)
        return refuse('noSuchConductor', `There is no conductor ${stranger ?? reading.b} to read against.`)
      if (reading.far.length !== notes.farSwitches) return refuse('positionMissing', 'Say how every other switch stood.')
      if (reading.old && reading.old.length !== notes.oldSwitches.length)
        return refuse('positionMissing', 'Say how every old switch of this box stood.')
      if (reading.closed.length === 0) {
        const dead = touchOrRefuse(context, box.id)
        if (dead) return dead
        continue
      }
      const measure = canMeasure(context.site, box.id, context.actor, context)
      if (!measure.yes) return refuse(measure.code, measure.reasons, measure.toYes)
      const odd = found.found.circuits.find((circuit) => on.has(circuit) !== reading.closed.includes(circuit))
      if (odd)
        return refuse(
          'breakersDiffer',
          `{Breaker} ${odd} is ${on.has(odd) ? 'closed' : 'open'} in the record, and the reading says otherwise.`,
          'Record how the {breaker} stands, then store the reading.',
        )
    }
    return done(wiresRead(command))
  },
  label: (given) => counted(given.readings.length, 'reading'),
})

export const wiresRead = jobEvent('wiresRead', {
  evolve(job, payload: WiresRead) {
    wiringOn(job, payload.boxId).readings.push(...payload.readings)
  },
  say: (payload, { box }) =>
    `read ${payload.readings.map((reading) => `${reading.a}–${reading.b === 'REF' ? '{ground}' : reading.b} ${readingWord(reading)}`).join(', ')} at ${box(payload.boxId)}, ${payload.readings[0]!.closed.length ? `with ${payload.readings[0]!.closed.join(' and ')} closed` : 'dead'}`,
})
