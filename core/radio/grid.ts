import { predict, type RadioFit } from './fit'
import { between, type RoomPlan, type Spot } from './rooms'
import { chanceEnough } from './verdict'

export interface RadioGrid {
  floor: number
  /** Left upper corner, and the side of a cell, m. */
  x: number
  y: number
  step: number
  columns: number
  rows: number
  /** Row by row, dBm; NaN outside of every room. */
  dbm: Float32Array
}
/** The rectangle around the rooms of a floor. */
const frameOf = (rooms: RoomPlan[]) => ({
  x: Math.min(...rooms.map((one) => one.x)),
  y: Math.min(...rooms.map((one) => one.y)),
  right: Math.max(...rooms.map((one) => one.x + one.width)),
  bottom: Math.max(...rooms.map((one) => one.y + one.depth)),
})
const inRoom = ({ x, y, width, depth }: RoomPlan, px: number, py: number) => px >= x && px <= x + width && py >= y && py <= y + depth

/** What would be read in each cell of a floor, from the nearest of these senders by signal. */
export function radioGrid(fit: RadioFit, rooms: RoomPlan[], senders: Spot[], floor: number, step = 0.25): RadioGrid | null {
  const here = rooms.filter((room) => room.floor === floor)
  if (here.length === 0) return null
  const frame = frameOf(here)
  const columns = Math.max(1, Math.ceil((frame.right - frame.x) / step))
  const rows = Math.max(1, Math.ceil((frame.bottom - frame.y) / step))
  const dbm = new Float32Array(columns * rows).fill(NaN)
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const spot = { floor, x: frame.x + (column + 0.5) * step, y: frame.y + (row + 0.5) * step }
      if (!here.some((room) => inRoom(room, spot.x, spot.y))) continue
      dbm[row * columns + column] = Math.max(...senders.map((sender) => predict(fit, between(rooms, sender, spot)).dbm))
    }
  return { floor, x: frame.x, y: frame.y, step, columns, rows, dbm }
}

export interface Placing {
  spot: Spot
  /** Points that have enough signal with it, more likely than not, and without it. */
  after: number
  before: number
}
/**
 * Where one more access point or extender helps most: every half metre of every room is tried, and the spot taken at which most
 * points get enough; between equals the one that lifts their chances most.
 */
export function bestPlace(fit: RadioFit, rooms: RoomPlan[], senders: Spot[], points: Spot[], step = 0.5): Placing | null {
  if (points.length === 0 || rooms.length === 0) return null
  const chanceAt = (sender: Spot, point: Spot) => chanceEnough(predict(fit, between(rooms, sender, point)))
  const now = points.map((point) => Math.max(0, ...senders.map((sender) => chanceAt(sender, point))))
  const count = (chances: number[]) => chances.filter((chance) => chance >= 0.75).length
  let best: (Placing & { sum: number }) | null = null
  for (const room of rooms)
    for (let y = room.y + step; y < room.y + room.depth; y += step)
      for (let x = room.x + step; x < room.x + room.width; x += step) {
        const spot = { floor: room.floor, x, y }
        const then = points.map((point, index) => Math.max(now[index]!, chanceAt(spot, point)))
        const sum = then.reduce((all, one) => all + one, 0)
        const after = count(then)
        if (!best || after > best.after || (after === best.after && sum > best.sum)) best = { spot, after, before: count(now), sum }
      }
  return best && { spot: best.spot, after: best.after, before: best.before }
}
