import { Chance } from '../../chance'
import { usualWeights, type DayCrew, type DayProblem, type DayVisit } from '../plan'

const minute = 60
const hour = 3600

/** A time or two of a day when somebody is away. */
function gaps(chance: Chance, begin: number): { from: number; to: number }[] {
  const first = begin + chance.int(4 * hour)
  const back = first + 5 * minute + chance.int(3 * hour)
  const second = back + chance.int(2 * hour)
  return [{ from: first, to: back }, ...(chance.is(0.3) ? [{ from: second, to: second + chance.int(hour) + 1 }] : [])]
}

export interface DayShape {
  crews: number
  visits: number
  /** Share of visits for two people, and of crews that are two. */
  pairs?: number
  /** Every rule at once, odd ones too. */
  strange?: boolean
}

/** A day somewhere: homes on a plane with a river through it that only ferries cross on its eastern half. */
export function randomDay(seed: number, { crews, visits, pairs = 0.3, strange = false }: DayShape): DayProblem {
  const chance = new Chance(seed)
  const side = 12
  const spots = Array.from({ length: 1 + crews + visits }, () => ({ x: chance.next() * side, y: chance.next() * side }))
  spots[0] = { x: side / 2, y: side / 2 }
  const south = (place: number) => spots[place]!.y < side * 0.2
  const kmh = strange ? 15 + chance.int(40) : 30
  const ferryEvery = (strange ? 10 + chance.int(50) : 20) * minute
  const ferries = chance.is(0.5)
  const arrive = (from: number, to: number, leave: number) => {
    if (from === to) return leave
    const km = Math.hypot(spots[from]!.x - spots[to]!.x, spots[from]!.y - spots[to]!.y)
    const half = (km / kmh) * 1800
    if (!ferries || south(from) === south(to)) return leave + 2 * half
    return Math.ceil((leave + half) / ferryEvery) * ferryEvery + 5 * minute + half
  }
  const skills = ['motors', 'networks']
  const crewOf = (index: number): DayCrew => {
    const from = strange ? chance.int(3) * hour : 0
    const to = from + (strange ? 3 + chance.int(7) : 8) * hour
    return {
      id: `crew ${index}`,
      personIds: [`person ${index}`],
      people: chance.is(pairs) ? 2 : 1,
      licensed: chance.is(0.75),
      skills: skills.filter(() => chance.is(0.6)),
      start: strange && chance.is(0.3) ? 1 + index : 0,
      end: strange && chance.is(0.2) ? null : 0,
      from,
      to,
      latest: to + (strange ? chance.int(3) : 1) * hour,
      rest: strange && chance.is(0.3) ? null : { seconds: 30 * minute, from: from + 3 * hour, to: from + 5 * hour },
      away: strange && chance.is(0.3) ? gaps(chance, from) : [],
      pace: strange ? 0.8 + chance.next() * 0.5 : 1,
    }
  }
  const team = Array.from({ length: crews }, (_, index) => crewOf(index))
  const visitOf = (index: number): DayVisit => {
    const from = chance.int(4) * 2 * hour
    const seconds = (strange ? 5 + chance.int(300) : 30 + chance.int(120)) * minute
    return {
      id: `visit ${index}`,
      place: 1 + crews + index,
      seconds,
      from,
      to: from + (strange ? 0.1 + chance.next() * 4 : 2) * hour,
      hard: strange && chance.is(0.3),
      weight: chance.is(0.2) ? 3 : 1,
      people: chance.is(pairs / 2) ? 2 : 1,
      licence: chance.is(0.5),
      skills: skills.filter(() => chance.is(0.15)),
      partsWith: chance.is(0.7) ? null : team.flatMap((_, crew) => (chance.is(0.5) ? [crew] : [])),
      leftOut: 200 + chance.int(strange ? 600 : 200),
      pinned: strange && chance.is(0.1) ? [chance.int(crews)] : null,
      promised: chance.is(0.3) ? { crews: [chance.int(crews)], start: from + chance.int(7200) } : null,
    }
  }
  return { crews: team, visits: Array.from({ length: visits }, (_, index) => visitOf(index)), store: 0, weights: usualWeights, arrive }
}
