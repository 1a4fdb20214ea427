import { lackOf, type DayProblem, type Routes } from './day'
import { linkedCrews, playAlone, playDay, type Spot } from './timing'

/** What was worked out before about one more visit for a crew, as its day and the days it is linked with stand. */
export interface KnownDay {
  problem: DayProblem
  /** The crews that are played together with it, itself first. */
  linked: number[]
  /** Of the crew itself. */
  route: readonly number[]
  /** Of each of them; null where their days cannot be played. */
  costs: number[] | null
  /** By visit: what it costs more, Infinity where it cannot be played, NaN where nobody asked yet. */
  delta: Float64Array
  /** Where it is put in, in the crew’s route, and in the other’s of two that come together. */
  position: Int16Array
  other: Int16Array | null
  /** How far its day is played before each of its visits, and after the last; only of a crew that shares none. */
  spots: Spot[] | null
  /** By visit of its route: what it saves when it is taken out. */
  saved: Map<number, number> | null
}
interface Memory {
  /** Of crews that share no visit, each where its crew and route say; what stood there before is forgotten. */
  alone: (KnownDay | undefined)[]
  linked: Map<string, KnownDay>
  /** By visit, then crew: 1 where the crew can do it by itself, whatever the time. */
  able: Uint8Array
}
const memories = new WeakMap<DayProblem, Memory>()
/** Numbers that are kept for one problem; past them, what was known first is forgotten. */
const most = 1_000_000
/** Places of a day, as a power of two: a day of eight visits needs no more than one of sixty. */
const mostSlots = 14

let last: { problem: DayProblem; memory: Memory } | null = null
function memoryOf(problem: DayProblem): Memory {
  // Asked millions of times, about the same problem.
  if (last?.problem === problem) return last.memory
  let memory = memories.get(problem)
  if (!memory) {
    const { visits, crews } = problem
    const able = new Uint8Array(visits.length * crews.length)
    visits.forEach((visit, index) =>
      crews.forEach((_, crew) => {
        if (!lackOf(visit, [crew], problem)) able[index * crews.length + crew] = 1
      }),
    )
    memory = {
      alone: new Array<undefined>(2 ** Math.min(mostSlots, Math.floor(Math.log2(most / Math.max(1, visits.length))))).fill(undefined),
      linked: new Map(),
      able,
    }
    memories.set(problem, memory)
  }
  last = { problem, memory }
  return memory
}

export const canAlone = (problem: DayProblem, visit: number, crew: number): boolean =>
  memoryOf(problem).able[visit * problem.crews.length + crew] === 1

/**
 * A search comes by the same days again and again, and what a visit costs more in one depends on nothing else.
 * @param crew One crew, or two that come together.
 */
export function knownDay(problem: DayProblem, routes: Routes, crew: number, second?: number): KnownDay {
  const { alone, linked: known } = memoryOf(problem)
  if (second === undefined && !sharesAny(problem, routes, crew)) {
    const route = routes[crew]!
    const slot = slotOf(crew, route) & (alone.length - 1)
    const there = alone[slot]
    if (there && there.linked[0] === crew && same(there.route, route)) return there
    const day = blankDay(problem, [crew], route)
    day.spots = []
    const cost = playAlone(problem, crew, route, day.spots)
    day.costs = cost === null ? null : [cost]
    return (alone[slot] = day)
  }
  const linked = linkedCrews(problem, routes, second === undefined ? [crew] : [crew, second])
  let key = second === undefined ? '' : 'two '
  for (const one of linked) key += `${one}:${routes[one]!.join()};`
  let day = known.get(key)
  if (!day) {
    if (known.size * problem.visits.length > most) known.clear()
    day = blankDay(problem, linked, routes[crew]!)
    day.costs = playDay(problem, routes, linked)?.map(({ cost }) => cost) ?? null
    known.set(key, day)
  }
  return day
}

function blankDay(problem: DayProblem, linked: number[], route: readonly number[]): KnownDay {
  const count = problem.visits.length
  return {
    ...{ problem, linked, costs: null, spots: null, saved: null },
    route: route.slice(),
    delta: new Float64Array(count).fill(NaN),
    position: new Int16Array(count),
    other: null,
  }
}
function slotOf(crew: number, route: readonly number[]): number {
  let hash = crew + 1
  for (const visit of route) hash = Math.imul(hash, 0x9e3779b1) + visit + 1
  return (hash ^ (hash >>> 15)) >>> 0
}
function same(a: readonly number[], b: readonly number[]): boolean {
  if (a.length !== b.length) return false
  for (let index = 0; index < a.length; index++) if (a[index] !== b[index]) return false
  return true
}
function sharesAny({ visits }: DayProblem, routes: Routes, crew: number): boolean {
  for (const visit of routes[crew]!)
    if (visits[visit]!.people > 1)
      for (let other = 0; other < routes.length; other++) if (other !== crew && routes[other]!.includes(visit)) return true
  return false
}
