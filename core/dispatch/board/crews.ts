import type { DayFile } from './day-file'
import { countedPeople } from './needs'
import { vanOf } from './twice'

/** People who go together on a day. */
export interface BoardCrew {
  id: string
  /** Whoever leads it first. */
  personIds: string[]
  /** Of them, those who go with nobody else that day: what is planned anew is planned for these. */
  steadyIds: string[]
  /** Who of these counts for a visit: an apprentice only beside somebody with a licence. */
  people: number
  licensed: boolean
  skills: string[]
  /** The van of who leads, or of who comes along; null where none drives one that no crew before it has. */
  vanId: string | null
  /** The van it goes by, others’ or not. */
  drives: string | null
}

/**
 * Crews of a day. Who is named first on a visit leads a crew; whoever comes along belongs to the crew they are with most, the
 * earlier one if it is even. Who has no visit goes alone; apprentices and the office without one not at all.
 */
export function crewsOf({ people, visits }: Pick<DayFile, 'people' | 'visits'>): BoardCrew[] {
  const known = new Map(people.map((person) => [person.id, person]))
  const inOrder = [...visits].sort((a, b) => a.startsAt.localeCompare(b.startsAt) || a.id.localeCompare(b.id))
  const leaders = [...new Set(inOrder.flatMap(({ personIds }) => personIds.slice(0, 1)))]
  const withLeader = new Map<string, Map<string, number>>()
  for (const { personIds } of inOrder)
    for (const id of personIds.slice(1)) {
      if (leaders.includes(id)) continue
      const counts = withLeader.get(id) ?? new Map<string, number>()
      counts.set(personIds[0]!, (counts.get(personIds[0]!) ?? 0) + 1)
      withLeader.set(id, counts)
    }
  const leaderOf = (counts: Map<string, number>) => [...counts].reduce((most, one) => (one[1] > most[1] ? one : most))[0]
  const along = [...withLeader].map(([id, counts]) => ({ id, leader: leaderOf(counts) }))
  const busy = new Set([...leaders, ...withLeader.keys()])
  const driven = new Set(leaders.map((id) => known.get(id)?.vanId))
  const alone = people
    // Whose van is on the road with others goes nowhere by themselves.
    .filter(({ id, role, vanId }) => !busy.has(id) && role !== 'dispatcher' && role !== 'apprentice' && !(vanId && driven.has(vanId)))
    .map(({ id }) => id)
  const taken = new Set<string>()
  return [...leaders, ...alone].map((leader) => {
    const personIds = [leader, ...along.filter((one) => one.leader === leader).map(({ id }) => id)]
    const steadyIds = personIds.filter((id) => id === leader || withLeader.get(id)!.size === 1)
    const licensed = steadyIds.some((id) => known.get(id)?.licensed)
    const vanId = vanOf(personIds, people)
    const free = vanId !== null && !taken.has(vanId)
    if (vanId) taken.add(vanId)
    const skills = [...new Set(steadyIds.flatMap((id) => known.get(id)?.skills ?? []))]
    return {
      id: leader,
      personIds,
      steadyIds,
      people: countedPeople(steadyIds.flatMap((id) => known.get(id) ?? [])),
      licensed,
      skills,
      vanId: free ? vanId : null,
      drives: vanId,
    }
  })
}

/**
 * When crews that go by one van have to leave it to the others, so that no plan has it in two places: it is with whoever is booked
 * next, from when the visit before is over, and before all of them with the first.
 * @param drives The van by crew.
 * @param booked Visits as they are booked, as long as they are expected to take; seconds after the day’s begin.
 * @param until Where the last turn ends.
 * @returns By crew, in order.
 */
export function vanTurns(
  drives: readonly (string | null)[],
  booked: readonly { crew: number; from: number; to: number }[],
  until: number,
): { from: number; to: number }[][] {
  const away = drives.map((): { from: number; to: number }[] => [])
  for (const van of new Set(drives)) {
    const crews = drives.flatMap((one, crew) => (van !== null && one === van ? [crew] : []))
    if (crews.length < 2) continue
    const turns: { crew: number; from: number; to: number }[] = []
    for (const { crew, from, to } of booked.filter((one) => crews.includes(one.crew)).sort((a, b) => a.from - b.from)) {
      const last = turns.at(-1)
      if (last?.crew === crew) {
        last.to = Math.max(last.to, to)
        continue
      }
      const begin = last ? Math.max(last.to, from) : from
      turns.push({ crew, from: begin, to: begin + (to - from) })
    }
    turns.forEach((turn, index) => {
      const from = index ? turn.from : 0
      const to = turns[index + 1]?.from ?? until
      for (const crew of crews) {
        if (turn.crew === crew || to <= from) continue
        const last = away[crew]!.at(-1)
        if (last?.to === from) last.to = to
        else away[crew]!.push({ from, to })
      }
    })
  }
  return away
}
