import { workedParts, type Away } from '../away'

/** One day of a branch, before its capacity is summed up. Instants as ISO text. */
export interface WeekDayFile {
  date: string
  /** From midnight to midnight there. */
  from: string
  to: string
  /** The branch works that day. */
  worked: boolean
  shift: { from: string; to: string }
  restMinutes: number
}
export interface WeekDay {
  date: string
  worked: boolean
  /** Minutes of people who lead or go beside somebody; apprentices and the office are not counted. */
  capacity: number
  booked: number
  visits: number
  /** Who is away at some time of its shift. */
  away: string[]
}

/**
 * How much of a week is booked: shifts less rests and time off, against the booked hours of who counts.
 * @param people Everybody of the branch.
 */
export function weekOf(
  days: readonly WeekDayFile[],
  people: readonly { id: string; role: string }[],
  away: readonly Away[],
  visits: readonly { personIds: readonly string[]; startsAt: string; endsAt: string }[],
): WeekDay[] {
  const counted = people.filter(({ role }) => role !== 'dispatcher' && role !== 'apprentice')
  const counts = new Set(counted.map(({ id }) => id))
  return days.map(({ date, from, to, worked, shift, restMinutes }) => {
    const span = { from: Date.parse(shift.from) / 1000, to: Date.parse(shift.to) / 1000 }
    const there = counted.map(({ id }) => workedParts(away, id, span).reduce((sum, part) => sum + (part.to - part.from) / 60, 0))
    const own = visits.filter(({ startsAt }) => Date.parse(startsAt) >= Date.parse(from) && Date.parse(startsAt) < Date.parse(to))
    const minutes = there.reduce((sum, one) => sum + Math.max(0, one - restMinutes), 0)
    return {
      ...{ date, worked, visits: own.length },
      capacity: worked ? minutes : 0,
      booked: own.reduce(
        (sum, { personIds, startsAt, endsAt }) =>
          sum + (personIds.filter((id) => counts.has(id)).length * (Date.parse(endsAt) - Date.parse(startsAt))) / 60_000,
        0,
      ),
      away: people
        .filter(({ id }) =>
          away.some((one) => one.personId === id && Date.parse(one.from) / 1000 < span.to && Date.parse(one.to) / 1000 > span.from),
        )
        .map(({ id }) => id),
    }
  })
}
