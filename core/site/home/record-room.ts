import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { sameName } from '../names'
import type { RecordRoom, RoomRecorded } from './record-room.schema'

export const recordRoom = siteCommand('recordRoom', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: RecordRoom) {
    const twin = site.roomOrder.some((id) => id !== command.roomId && sameName(site.rooms[id]!.name, command.name))
    if (twin) return refuse('nameTaken', `There is a room “${command.name}” already.`, 'Use that one, or give this one its own name.')
    return accept(roomRecorded({ ...command, was: site.rooms[command.roomId]?.name ?? null }))
  },
  label: ({ name }) => `room: ${name}`,
})

export const roomRecorded = siteEvent('roomRecorded', {
  evolve(site, payload: RoomRecorded) {
    site.rooms[payload.roomId] = { id: payload.roomId, name: payload.name }
    if (!site.roomOrder.includes(payload.roomId)) site.roomOrder.push(payload.roomId)
  },
  say: (payload) => (payload.was === null ? `added the room ${payload.name}` : `renamed the room ${payload.was} to ${payload.name}`),
})
