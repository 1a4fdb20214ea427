import { counted } from '../../units/counted'
import { accept, refuse } from '../../stream/envelope'
import { end } from '../changes'
import { consequenceOfPath } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { isBoxNamed } from '../names'
import { noBox, noBreaker, noRoom } from '../refusals'
import { boxKindWords } from '../survey-words'
import { ended } from '../telling'
import { emptyBox } from './empty-box'
import type { BoxRecorded, RecordBox } from './record-box.schema'

export const recordBox = siteCommand('recordBox', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: RecordBox) {
    if (site.boxes[command.boxId]) return refuse('boxExists', 'This box is on record already.')
    if (!site.roomOrder.includes(command.roomId)) return noRoom()
    if (command.breakerIds.some((id) => !site.breakers[id])) return noBreaker()
    const far = command.farBoxIds.map((id) => site.boxes[id])
    if (far.some((box) => !box)) return noBox()
    if (isBoxNamed(site, command.roomId, command.name))
      return refuse('nameTaken', `There is a box “${command.name}” in this room already.`, 'Use that one, or give this one its own name.')
    // What a switch nobody listed acts on was not read in all of its positions. A box at a fixture has none.
    const acted = command.kind === 'fixture' ? [] : far
    return accept(boxRecorded({ ...command, ...consequenceOfPath(site, acted as NonNullable<(typeof far)[number]>[], [], null) }))
  },
  label: ({ name }) => `box: ${name}`,
})

export const boxRecorded = siteEvent('boxRecorded', {
  evolve(site, payload: BoxRecorded, event) {
    const { boxId: id, roomId, name, gangs, breakerIds, farBoxIds, kind } = payload
    site.boxes[id] = {
      ...structuredClone(emptyBox),
      ...{ id, roomId, name, gangs, breakerIds, farBoxIds },
      volumeIn3: null,
      depthMm: null,
      material: 'unknown',
      internalClamps: 0,
      unknownFeed: breakerIds.length === 0,
    }
    site.boxOrder.push(id)
    site.surveys[id] = { kind }
    for (const farId of kind === 'fixture' ? [] : farBoxIds) {
      const far = site.boxes[farId]!
      if (!far.farBoxIds.includes(id)) far.farBoxIds = [...far.farBoxIds, id]
    }
    end(site, payload, { code: 'laidOut' }, event, { boxIds: farBoxIds })
  },
  say: (payload, { site }) =>
    `found a box nobody had listed: ${payload.name} (${site.rooms[payload.roomId]?.name ?? 'no room'}), ${payload.kind === 'wall' ? counted(payload.gangs, 'gang') : boxKindWords[payload.kind]}.${ended(payload.voids)}`,
})
