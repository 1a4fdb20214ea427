/** Where a spot is, on a floor's plan, metres. */
export interface Spot {
  floor: number
  x: number
  y: number
}
export interface RoomPlan {
  id: string
  floor: number
  x: number
  y: number
  width: number
  depth: number
}
/** What lies between two spots. */
export interface Between {
  metres: number
  /** Null: not counted. */
  walls: number | null
  floors: number
}

/** Floor to floor, m. Common practice, no source. */
export const storeyMetres = 2.7
/** Edges of two rooms closer than this are one wall, m. */
const oneWallMetres = 0.35

/** Distance, walls and floors between two spots: each wall of a room that the straight way crosses, shared ones once. */
export function between(rooms: RoomPlan[], from: Spot, to: Spot): Between {
  const floors = Math.abs(from.floor - to.floor)
  const [dx, dy] = [to.x - from.x, to.y - from.y]
  const flat = Math.hypot(dx, dy)
  const crossings: number[] = []
  for (const room of rooms) {
    // Across floors the walls of both count: nobody knows through which the way goes.
    if (room.floor !== from.floor && room.floor !== to.floor) continue
    for (const at of crossingsOf(room, from, dx, dy)) crossings.push(at * flat)
  }
  crossings.sort((a, b) => a - b)
  const apart = crossings.filter((at, index) => index === 0 || at - crossings[index - 1]! > oneWallMetres)
  return { metres: Math.hypot(flat, floors * storeyMetres), walls: apart.length, floors }
}
/** Where along the way from 0 to 1 it goes through the edges of a rectangle. */
function crossingsOf({ x, y, width, depth }: RoomPlan, from: Spot, dx: number, dy: number): number[] {
  const hits: number[] = []
  const tryEdge = (at: number, along: number, low: number, high: number) => {
    if (at > 0 && at < 1 && along >= low && along <= high) hits.push(at)
  }
  if (dx !== 0) for (const edge of [x, x + width]) tryEdge((edge - from.x) / dx, from.y + (dy * (edge - from.x)) / dx, y, y + depth)
  if (dy !== 0) for (const edge of [y, y + depth]) tryEdge((edge - from.y) / dy, from.x + (dx * (edge - from.y)) / dy, x, x + width)
  return hits
}
export const middleOf = ({ floor, x, y, width, depth }: RoomPlan): Spot => ({ floor, x: x + width / 2, y: y + depth / 2 })
