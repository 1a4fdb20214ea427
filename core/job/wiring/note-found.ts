import { counted } from '../../units/counted'
import { refuse } from '../../stream/envelope'
import { asFoundBoxOf } from '../box-wiring'
import { wiringOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { boxOf, noBox } from '../refusals'
import type { FoundNoted, NoteFound } from './note-found.schema'

export const noteFound = jobCommand('noteFound', {
  by: 'crew',
  queues: true,
  decide(job, command: NoteFound, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const known = new Set(box.conductors.map((conductor) => conductor.letter))
    const named = [...command.notes.splices.flat(), ...command.notes.oldSwitches.flatMap((old) => Object.values(old.terminals).flat())]
    const stranger = named.find((letter) => !known.has(letter))
    if (stranger) return refuse('noSuchConductor', `There is no conductor ${stranger} in ${box.name}.`)
    const found = asFoundBoxOf(context.site, box, command.notes)
    if (!found.ok) return refuse('boxTooUnknown', found.reason)
    return done(foundNoted(command))
  },
  label: () => 'box as found',
})

export const foundNoted = jobEvent('foundNoted', {
  evolve(job, payload: FoundNoted) {
    // Other joints mean other arrangements: what was read stays, a plan made for the old ones does not.
    Object.assign(wiringOn(job, payload.boxId), { notes: payload.notes, plan: null, observed: [] })
  },
  say: (payload, { box }) =>
    `described ${box(payload.boxId)} as found: ${counted(payload.notes.splices.length, 'splice')}, ${counted(payload.notes.oldSwitches.length, 'old switch', 'old switches')}`,
})
