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
  const timed = (one: NewHours) => ({
    ...one,
    from: Date.parse(one.startAt),
    to: Date.parse(one.endAt),
    van: vanOf(one.personIds, file.people),
  })
  const moved = changes.map(timed)
  const after = [
    ...file.visits
      .filter(({ id, status }) => status !== 'done' && !changed.has(id))
      .map(({ startsAt: startAt, endsAt: endAt, ...visit }) => timed({ ...visit, startAt, endAt })),
    ...moved,
  ]
  // A day of hundreds: only who shares somebody or a van is looked at.
  const sharing = new Map<string, typeof after>()
  const keysOf = ({ personIds, van }: (typeof after)[number]) => [...personIds, ...(van === null ? [] : [`van ${van}`])]
  for (const one of after) for (const key of keysOf(one)) sharing.set(key, [...(sharing.get(key) ?? []), one])
  return moved.flatMap((change): Clash[] => {
    const others = new Set(
      keysOf(change).flatMap((key) =>
        // Two crews may come to one home in one van.
        sharing.get(key)!.filter((other) => other.id !== change.id && (!key.startsWith('van ') || other.siteId !== change.siteId)),
      ),
    )
    return [
      ...(change.personIds.some((id) => isAway(file.away, id, change.startAt, change.endAt)) ? [{ change: change.id, with: null }] : []),
      ...[...others].filter(({ from, to }) => from < change.to && to > change.from).map(({ id }) => ({ change: change.id, with: id })),
    ]
  })
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
