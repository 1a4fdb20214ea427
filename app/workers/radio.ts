import {
  bestPlace,
  middleOf,
  radioGrid,
  radioOfHome,
  radioPlanOf,
  type HomeRadio,
  type Placing,
  type RadioBand,
  type RadioGrid,
} from '../../core/radio'
import type { SiteState } from '../../core/site'
import { answers } from './answers'

/** The signal of a home: at each box, as a map of each floor, and where one more access point helps. Off the page's own thread. */
export interface RadioTalk {
  question: { site: SiteState; boxIds: string[]; band: RadioBand }
  answer: { home: HomeRadio; grids: RadioGrid[]; place: (Placing & { roomName: string }) | null }
}
answers<RadioTalk>(({ site, boxIds, band }) => {
  const boxes = boxIds.flatMap((id) => site.boxes[id] ?? [])
  const home = radioOfHome(site, boxes, band)
  const { rooms, senders } = radioPlanOf(site)
  const spots = senders.map(({ spot }) => spot)
  const floors = [...new Set(rooms.map(({ floor }) => floor))].sort((a, b) => a - b)
  const grids = spots.length ? floors.flatMap((floor) => radioGrid(home.fit, rooms, spots, floor) ?? []) : []
  const points = boxes.flatMap((box) => {
    const room = rooms.find(({ id }) => id === box.roomId)
    return room ? [middleOf(room)] : []
  })
  const place = spots.length ? bestPlace(home.fit, rooms, spots, points) : null
  const roomAt =
    place &&
    rooms.find(
      ({ floor, x, y, width, depth }) =>
        floor === place.spot.floor && place.spot.x >= x && place.spot.x <= x + width && place.spot.y >= y && place.spot.y <= y + depth,
    )
  return {
    home,
    grids,
    place: place && place.after > place.before ? { ...place, roomName: site.rooms[roomAt?.id ?? '']?.name ?? '' } : null,
  }
})
