import { Chance } from '../../chance'
import type { Reading } from '../fit'
import { between, middleOf, type RoomPlan, type Spot } from '../rooms'

/**
 * A home whose radio follows another model than the one that is fitted: each wall has its own loss, by what it is built of, the
 * level falls faster than in free space, furniture and people shadow by 6 dB, and every phone shows some dB too much or too little.
 */
export interface RadioHome {
  rooms: RoomPlan[]
  router: Spot
  spots: Spot[]
  /** What this home's phone shows at a spot, dBm. */
  read(spot: Spot): number
}
/** A normal deviate: twelve uniform ones. */
const normal = (chance: Chance, spread: number) => {
  let sum = -6
  for (let index = 0; index < 12; index++) sum += chance.int(1_000_000) / 1_000_000
  return sum * spread
}
const losses = { plasterboard: 2.5, timber: 4, brick: 8, concrete: 12 }

export function radioHome(seed: number): RadioHome {
  const chance = new Chance(seed)
  const floors = 1 + chance.int(3)
  const rooms: RoomPlan[] = []
  const built = chance.weighed({ plasterboard: 5, timber: 2, brick: 4, concrete: 1 })
  for (let floor = 0; floor < floors; floor++) {
    let y = 0
    for (let row = 0; row < 2 + chance.int(2); row++) {
      const depth = 2.5 + chance.int(25) / 10
      let x = 0
      for (let column = 0; column < 2 + chance.int(2); column++) {
        const width = 2.5 + chance.int(30) / 10
        rooms.push({ id: `${floor}-${row}-${column}`, floor, x, y, width, depth })
        x += width
      }
      y += depth
    }
  }
  const home = chance.pick(rooms.filter(({ floor }) => floor === 0))
  const within = (room: RoomPlan): Spot => ({
    floor: room.floor,
    x: room.x + (0.1 + chance.int(80) / 100) * room.width,
    y: room.y + (0.1 + chance.int(80) / 100) * room.depth,
  })
  const router = within(home)
  const spots = rooms.flatMap((room) => [within(room), within(room)])
  // Inner walls are mostly of one kind, some of another.
  const wallOf = new Map(
    rooms.map((room) => [room.id, chance.is(0.75) ? built : chance.pick(Object.keys(losses) as (keyof typeof losses)[])]),
  )
  const level = 16 + chance.int(50) / 10 + (chance.int(60) / 10 - 3)
  const exponent = 20 + chance.int(50) / 10
  const floorDb = 9 + chance.int(100) / 10
  const shadow = new Map(spots.map((spot) => [spot, normal(chance, 6)]))
  return {
    rooms,
    router,
    spots,
    read(spot) {
      const { metres, walls, floors: through } = between(rooms, router, spot)
      // Each wall as what it is: those of the rooms passed, in the order of their names; as many as are crossed.
      const kinds = rooms.filter((room) => room.floor === spot.floor).map((room) => losses[wallOf.get(room.id) ?? built])
      const wallsDb = Array.from({ length: walls ?? 0 }, (_, index) => kinds[(index * 7 + 3) % kinds.length]!).reduce(
        (sum, one) => sum + one,
        0,
      )
      const loss = 20 * Math.log10(2437) + exponent * Math.log10(Math.max(1, metres)) - 27.55 + wallsDb + through * floorDb
      return level - loss + (shadow.get(spot) ?? 0)
    },
  }
}
export const readingAt = (home: RadioHome, spot: Spot): Reading => ({
  between: between(home.rooms, home.router, spot),
  metalDb: 0,
  dbm: Math.round(home.read(spot)),
  bars: null,
})
export { middleOf }
