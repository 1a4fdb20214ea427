import { counted } from '../../units/counted'
import { accept, refuse } from '../../stream/envelope'
import { boxAt, end, openUp } from '../changes'
import { consequenceFor, nothingEnds } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { noBox } from '../refusals'
import { ended } from '../telling'
import type { ConductorsRecorded, RecordConductors } from './record-conductors.schema'

export const recordConductors = siteCommand('recordConductors', {
  kind: 'work',
  queues: true,
  decide(site, command: RecordConductors, { actor }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const letters = command.conductors.map((conductor) => conductor.letter)
    if (new Set(letters).size !== letters.length)
      return refuse('sameLetter', 'Two conductors carry the same letter.', 'Give each conductor its own letter.')
    const hidden = box.readLive.find((letter) => !letters.includes(letter))
    if (hidden && box.closure === 'opened')
      return refuse(
        'readLive',
        `${hidden} showed voltage since the box was opened: it stays on the list while the box is open.`,
        'If the reading belongs to another conductor, move it to that letter first.',
      )
    const known = new Set(box.conductors.map((conductor) => conductor.letter))
    const changed = letters.some((letter) => !known.has(letter)) || known.size !== letters.length
    return accept(conductorsRecorded({ ...command, ...(changed ? consequenceFor(site, [box], [], actor) : nothingEnds) }))
  },
  label: () => 'conductors',
})

export const conductorsRecorded = siteEvent('conductorsRecorded', {
  hands: true,
  evolve(site, payload: ConductorsRecorded, event) {
    const target = boxAt(site, payload.boxId)
    const letters = (conductors: { letter: string }[]) =>
      conductors
        .map((conductor) => conductor.letter)
        .sort()
        .join()
    // Conductors are seen with the plate off.
    if (target.closure === 'closed' || target.closure === 'guarded') openUp(site, target, event)
    target.openWords[event.actor.personId] = event.seq
    // A conductor nobody tested may bring any feed.
    if (letters(target.conductors) !== letters(payload.conductors)) target.ruledOut = {}
    target.conductors = payload.conductors
    end(site, payload, { code: 'otherConductors' }, event, { boxIds: [payload.boxId] })
  },
  say: (payload, { box }) =>
    `recorded ${counted(payload.conductors.length, 'conductor')} in ${box(payload.boxId)}: ${payload.conductors.map((conductor) => `${conductor.letter} ${conductor.colour}`).join(', ')}.${ended(payload.voids)}`,
})
