import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { RetireRoom, RoomRetired } from './retire-room.schema'

export const retireRoom = siteCommand('retireRoom', {
  kind: 'work',
  by: 'office',
  decide(site, command: RetireRoom) {
    const room = site.rooms[command.roomId]
    if (!room || !site.roomOrder.includes(room.id)) return refuse('noSuchRoom', 'There is no such room at this site.')
    const [box] = site.boxOrder.filter((id) => site.boxes[id]!.roomId === room.id)
    if (box)
      return refuse(
        'roomInUse',
        `${site.boxes[box]!.name} is in this room.`,
        'Move its boxes to another room first, or take them off the record.',
      )
    return accept(roomRetired(command))
  },
})

export const roomRetired = siteEvent('roomRetired', {
  evolve(site, payload: RoomRetired) {
    site.roomOrder = site.roomOrder.filter((id) => id !== payload.roomId)
  },
  say: (payload, { site }) => `took the room ${site.rooms[payload.roomId]?.name ?? ''} off the record`,
})
