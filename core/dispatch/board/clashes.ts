import { isAway } from '../away'
import type { DayFile } from './day-file'
import { vanOf } from './twice'

export interface NewHours {
  id: string
  siteId: string
  personIds: readonly string[]
  startAt: string
  endAt: string
}
/** Why one change cannot be: with another visit of that day, or, with null, because somebody is away. */
export interface Clash {
  change: string
  with: string | null
}

/** What taking these changes over at once would be refused for, by the file: people and vans in two places, people who are away. */
export function clashesOf(file: Pick<DayFile, 'visits' | 'people' | 'away'>, changes: readonly NewHours[]): Clash[] {
  const changed = new Set(changes.map(({ id }) => id))
  const after: NewHours[] = [
    ...file.visits
      .filter(({ id, status }) => status !== 'done' && !changed.has(id))
      .map(({ startsAt: startAt, endsAt: endAt, ...visit }) => ({ ...visit, startAt, endAt })),
    ...changes,
  ]
  const vans = new Map(after.map((one) => [one, vanOf(one.personIds, file.people)]))
  const overlap = (a: NewHours, b: NewHours) => Date.parse(a.startAt) < Date.parse(b.endAt) && Date.parse(a.endAt) > Date.parse(b.startAt)
  const excludeEachOther = (a: NewHours, b: NewHours) =>
    a.personIds.some((id) => b.personIds.includes(id)) || (a.siteId !== b.siteId && vans.get(a) !== null && vans.get(a) === vans.get(b))
  return changes.flatMap((change): Clash[] => [
    ...(change.personIds.some((id) => isAway(file.away, id, change.startAt, change.endAt)) ? [{ change: change.id, with: null }] : []),
    ...after
      .filter((other) => other.id !== change.id && overlap(change, other) && excludeEachOther(change, other))
      .map((other) => ({ change: change.id, with: other.id })),
  ])
}
