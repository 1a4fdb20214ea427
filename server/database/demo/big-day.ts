import type { DateTime } from 'luxon'
import { Chance } from '../../../core/chance'
import type { Viewer } from '../../services/access'
import { usualConductors, type DemoCrew } from './crew'
import type { DemoHome } from './homes'

/** Streets of the town and the villages, with how often one is sent there. */
const streets: [street: string, town: string, weight: number][] = [
  ['Hill Road', 'Port Sallow', 3],
  ['Kiln Lane', 'Port Sallow', 3],
  ['Tannery Street', 'Port Sallow', 3],
  ['Cooper’s Row', 'Port Sallow', 2],
  ['Chandler Street', 'Port Sallow', 2],
  ['Net Street', 'Port Sallow', 3],
  ['Lantern Row', 'Port Sallow', 2],
  ['Osier Street', 'Port Sallow', 3],
  ['Heron Street', 'Port Sallow', 2],
  ['Sedge Lane', 'Port Sallow', 3],
  ['Orchard Road', 'Port Sallow', 3],
  ['Weaver’s Row', 'Port Sallow', 2],
  ['Weir Road', 'Port Sallow', 2],
  ['Holm Street', 'Tern Holm', 2],
  ['Samphire Row', 'Tern Holm', 1],
  ['Shore Lane', 'Little Sallow', 2],
  ['Church Path', 'Cockle Bar', 1],
]
const kinds = ['Cottage', 'Loft', 'Yard', 'House', 'Barn', 'Rooms', 'Stores', 'Lodge']
const names = [
  'Curlew',
  'Samphire',
  'Oar',
  'Lantern',
  'Withy',
  'Plover',
  'Tern',
  'Anchor',
  'Bell',
  'Cooper',
  'Sedge',
  'Eel',
  'Wicket',
  'Barley',
  'Osier',
  'Kelp',
]
const rooms = ['Net loft', 'Sail room', 'Mud room', 'Print shop', 'Reading nook', 'Tide room']
const customers = ['Arlo Venn', 'Bea Thistle', 'Cass Merrow', 'Dorin Pike', 'Elba Strand', 'Finn Sorrel', 'Greta Wade', 'Hob Larkin']

/** One invented home of so many boxes with a light each. */
export function home(chance: Chance, number: number): DemoHome {
  const weights = Object.fromEntries(streets.map(([, , weight], index) => [index, weight]))
  const [street, town] = streets[Number(chance.weighed(weights))]!
  const name = `${names[number % names.length]} ${kinds[Math.floor(number / names.length + number) % kinds.length]}`
  const own = Array.from({ length: 1 + chance.int(2) }, (_, index) => ({
    room: rooms[(number + index) % rooms.length]!,
    breaker: String(2 + index),
  }))
  return {
    title: `${name}, ${own.length === 1 ? 'one room' : `${own.length} rooms`}`,
    name,
    address: `${1 + chance.int(58)} ${street}, ${town}`,
    scheme: 'na120',
    customer: customers[number % customers.length]!,
    yearBuilt: 1930 + chance.int(80),
    breakers: own.map(({ room, breaker }) => ({ number: breaker, label: room.toLowerCase() })),
    boxes: own.map(({ room, breaker }) => [room, `${room.toLowerCase()} door`, 1, [breaker]]),
    points: own.map(({ room }) => [`${room} light`, room, 2, 9, [`${room.toLowerCase()} door:1`]]),
  }
}

/** What some of the work that waits takes. */
const waitingNeeds: Record<number, { people: number; skills: string[] }> = {
  1: { people: 2, skills: [] },
  3: { people: 1, skills: ['networks'] },
}

/** One crew has not come to its first home, and nobody knows why. */
const notThere = 4

interface Tools {
  office: Viewer
  /** Proves a box, puts a device in, tests its light and joins it. */
  installIn: (crew: DemoCrew, box: string, point: string) => Promise<void>
  open: (home: DemoHome, when: DateTime) => Promise<{ jobId: string; siteId: string }>
  team: (ids: { jobId: string; siteId: string }, who: Viewer, start: DateTime, prefix: string) => Promise<DemoCrew>
  visit: (team: DemoCrew, people: Viewer[], from: DateTime, hours: number) => Promise<string>
}

/** The day of eight more crews: what a dispatcher sees at half past ten. */
export async function fillDay(crews: Viewer[][], morning: DateTime, { office, open, team, visit, installIn }: Tools): Promise<void> {
  const chance = new Chance(1030)
  // What happens on the way must not decide which homes there are: the same day at ten and at five to eleven.
  const luck = new Chance(1031)
  let number = 0
  for (const [index, people] of crews.entries()) {
    const who = people[0]!
    // Some began early and are at their second home, one has still not come to its first.
    let at = morning.set({ hour: 7, minute: 30 }).plus({ minutes: 15 * (index % 4) })
    for (let stop = 0; stop < 6 && at.hour < 16; stop++) {
      const place = home(chance, number++)
      const boxes = place.boxes.length
      const hours = Math.max(1, Math.ceil((32 + boxes * 45) / 30) / 2)
      const ids = await open(place, morning.minus({ days: 3 + chance.int(8) }))
      const crew = await team(ids, who, morning.minus({ days: 2 }), `D${number}`)
      const visitId = await visit(crew, people, at, hours)
      const ends = at.plus({ hours })
      const arrived = at.plus({ minutes: luck.int(12) })
      if (ends.plus({ minutes: 20 }) < morning) {
        crew.at(arrived.toJSDate())
        await crew.job({ type: 'arrive', visitId }, who)
        for (const [index, [, box]] of place.boxes.entries()) await installIn(crew, box, place.points[index]![0])
        await crew.handOver(place.customer)
        crew.at(ends.minus({ minutes: 25 - luck.int(40) }).toJSDate())
        await crew.job({ type: 'finishVisit', visitId }, who)
      } else if (arrived >= morning && ends.minus({ hours }) < morning.plus({ minutes: 35 }) && index % 3 === 0) {
        crew.at(morning.minus({ minutes: 9 }).toJSDate())
        await crew.job({ type: 'setOff', visitId, expectedAt: morning.plus({ minutes: 6 }).toISO()! }, who)
      } else if (arrived < morning && index !== notThere) {
        crew.at(arrived.toJSDate())
        await crew.job({ type: 'arrive', visitId }, who)
        const [box] = place.boxes
        if (people.length > 1) {
          await crew.openAndTag(box![1], `${who.initials} blue 1`)
          await crew.look(box![1], usualConductors)
        }
      }
      at = ends.plus({ minutes: 20 + 5 * chance.int(4) })
    }
  }
  // What waits for a day.
  for (let more = 0; more < 5; more++) {
    const day = morning.minus({ days: 1 + chance.int(9) })
    const crew = await team(await open(home(chance, number++), day), crews[0]![0]!, day, `W${more}`)
    const needs = waitingNeeds[more]
    if (needs) await crew.job({ type: 'setNeeds', ...needs }, office)
  }
}
