import { accept, refuse } from '../../stream/envelope'
import { boxAt, showedVoltage } from '../changes'
import { siteCommand, siteEvent } from '../define'
import { boxName } from '../proofs'
import { noBox } from '../refusals'
import type { MoveReading, ReadingMoved } from './move-reading.schema'

export const moveReading = siteCommand('moveReading', {
  kind: 'work',
  queues: true,
  decide(site, command: MoveReading) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (!box.readLive.includes(command.from)) return refuse('noSuchReading', `${command.from} has shown no voltage.`)
    if (!box.conductors.some((conductor) => conductor.letter === command.to))
      return refuse(
        'noSuchConductor',
        `There is no conductor ${command.to} in ${boxName(site, box)}.`,
        'Record it first, then move the reading.',
      )
    return accept(readingMoved(command))
  },
  label: (submission) => `reading moved to ${submission.to}`,
})

export const readingMoved = siteEvent('readingMoved', {
  evolve(site, payload: ReadingMoved) {
    const target = boxAt(site, payload.boxId)
    target.readLive = target.readLive.filter((one) => one !== payload.from)
    showedVoltage(target, payload.to)
  },
  say: (payload, { box }) => `moved a reading at ${box(payload.boxId)} from ${payload.from} to ${payload.to}`,
})
