import { counted } from '../../units/counted'
import { accept } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { noRoom } from '../refusals'
import type { PlaceRoom, RoomPlaced } from './place-room.schema'

/** Where a room is, for what the signal has to go through. It says nothing of power. */
export const placeRoom = siteCommand('placeRoom', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide: (site, command: PlaceRoom) => (site.roomOrder.includes(command.roomId) ? accept(roomPlaced(command)) : noRoom()),
  label: () => 'place of a room',
})

export const roomPlaced = siteEvent('roomPlaced', {
  evolve(site, { roomId, place }: RoomPlaced) {
    if (place) site.places[roomId] = place
    else delete site.places[roomId]
  },
  say({ roomId, place }, { site }) {
    const room = site.rooms[roomId]?.name ?? 'a room'
    if (!place) return `took the place of ${room} back`
    if (place.kind === 'plan') return `drew ${room} on the plan: ${place.width} × ${place.depth} m, floor ${place.floor}`
    const walls = place.walls === null ? 'walls not counted' : counted(place.walls, 'wall')
    return `noted the way from the router to ${room}: ${place.metres} m, ${walls}, ${counted(place.floors, 'floor')}`
  },
})
