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

/**
 * What of a proposal can be taken over when some of it is not: whoever was to come may still be where they are booked.
 * @returns of `changes` those that stand by themselves
 */
export function standing<C extends NewHours & { quiet: boolean }>(
  file: Pick<DayFile, 'visits' | 'people' | 'away'>,
  changes: readonly C[],
): C[] {
  const clashes = clashesOf(file, changes)
  if (!clashes.length) return [...changes]
  const known = new Set(changes.map(({ id }) => id))
  // What is in the way of something that stays cannot be; of two that are new, what is only set to its expected hours gives way.
  const fixed = clashes.filter((one) => one.with === null || !known.has(one.with)).map(({ change }) => change)
  const quiet = clashes.map(({ change }) => change).filter((id) => changes.some((one) => one.id === id && one.quiet))
  const gone = new Set(fixed.length ? fixed : quiet.length ? quiet : [clashes.at(-1)!.change])
  return standing(
    file,
    changes.filter(({ id }) => !gone.has(id)),
  )
}
