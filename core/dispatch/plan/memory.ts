import { lackOf, type DayProblem, type Routes } from './day'
import { linkedCrews, playDay, type Spot } from './timing'

/** What was worked out before about one more visit for a crew, as its day and the days it is linked with stand. */
export interface KnownDay {
  problem: DayProblem
  /** The crews that are played together with it, itself first. */
  linked: number[]
  /** Of each of them; null where their days cannot be played. */
  costs: number[] | null
  /** By visit: what it costs more, Infinity where it cannot be played, NaN where nobody asked yet. */
  delta: Float64Array
  /** Where it is put in, in the crew’s route, and in the other’s of two that come together. */
  position: Int16Array
  other: Int16Array
  /** How far its day is played before each of its visits, and after the last; only of a crew that shares none. */
  spots: Spot[] | null
  /** By visit of its route: what it saves when it is taken out. */
  saved: Map<number, number> | null
}
interface Memory {
  days: Map<string, KnownDay>
  /** By visit, then crew: 1 where the crew can do it by itself, whatever the time. */
  able: Uint8Array
}
const memories = new WeakMap<DayProblem, Memory>()
/** Numbers that are kept for one problem; past them it begins anew. */
const most = 1_500_000

function memoryOf(problem: DayProblem): Memory {
  let memory = memories.get(problem)
  if (!memory) {
    const { visits, crews } = problem
    const able = new Uint8Array(visits.length * crews.length)
    visits.forEach((visit, index) =>
      crews.forEach((_, crew) => {
        if (!lackOf(visit, [crew], problem)) able[index * crews.length + crew] = 1
      }),
    )
    memory = { days: new Map(), able }
    memories.set(problem, memory)
  }
  return memory
}

export const canAlone = (problem: DayProblem, visit: number, crew: number): boolean =>
  memoryOf(problem).able[visit * problem.crews.length + crew] === 1

/**
 * A search comes by the same days again and again, and what a visit costs more in one depends on nothing else.
 * @param crew One crew, or two that come together.
 */
export function knownDay(problem: DayProblem, routes: Routes, crew: number, second?: number): KnownDay {
  const { days } = memoryOf(problem)
  if (days.size * problem.visits.length > most) days.clear()
  const linked = linkedCrews(problem, routes, second === undefined ? [crew] : [crew, second])
  let key = second === undefined ? '' : 'two '
  for (const one of linked) key += `${one}:${routes[one]!.join()};`
  let known = days.get(key)
  if (!known) {
    const count = problem.visits.length
    const costs = playDay(problem, routes, linked)?.map(({ cost }) => cost) ?? null
    known = {
      ...{ problem, linked, costs, spots: null, saved: null },
      delta: new Float64Array(count).fill(NaN),
      position: new Int16Array(count),
      other: new Int16Array(count),
    }
    days.set(key, known)
  }
  return known
}
