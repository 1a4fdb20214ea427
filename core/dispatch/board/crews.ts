import type { DayFile } from './day-file'
import { countedPeople } from './needs'
import { vanOf } from './twice'

/** People who go together on a day. */
export interface BoardCrew {
  id: string
  /** Whoever leads it first. */
  personIds: string[]
  /** Who counts for a visit: an apprentice only beside somebody with a licence. */
  people: number
  licensed: boolean
  skills: string[]
  /** The van of who leads, or of who comes along; null where none drives one that no crew before it has. */
  vanId: string | null
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
    const licensed = personIds.some((id) => known.get(id)?.licensed)
    const vanId = vanOf(personIds, people)
    const free = vanId !== null && !taken.has(vanId)
    if (vanId) taken.add(vanId)
    const skills = [...new Set(personIds.flatMap((id) => known.get(id)?.skills ?? []))]
    return {
      id: leader,
      personIds,
      people: countedPeople(personIds.flatMap((id) => known.get(id) ?? [])),
      licensed,
      skills,
      vanId: free ? vanId : null,
    }
  })
}
