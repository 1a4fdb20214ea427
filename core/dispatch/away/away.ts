/** Why somebody is away. */
export const awayKinds = ['off', 'ill', 'course'] as const
export type AwayKind = (typeof awayKinds)[number]
export const awayWords: Record<AwayKind, string> = { off: 'time off', ill: 'ill', course: 'on a course' }

/** Somebody does not work. Instants as ISO text. */
export interface Away {
  personId: string
  from: string
  to: string
}
const overlaps = (one: { from: string; to: string }, from: string, to: string) =>
  Date.parse(one.from) < Date.parse(to) && Date.parse(one.to) > Date.parse(from)

/** Is somebody away at some moment of that time? */
export const isAway = (away: readonly Away[], personId: string, from: string, to: string): boolean =>
  away.some((one) => one.personId === personId && overlaps(one, from, to))

/** Those of a visit’s people who are there. */
export const present = (
  away: readonly Away[],
  { personIds, startsAt, endsAt }: { personIds: string[]; startsAt: string; endsAt: string },
): string[] => personIds.filter((id) => !isAway(away, id, startsAt, endsAt))

/** The parts of a working day in which somebody is there, seconds, in order. */
export function workedParts(away: readonly Away[], personId: string, day: { from: number; to: number }): { from: number; to: number }[] {
  const gone = away
    .filter((one) => one.personId === personId)
    .map(({ from, to }) => ({ from: Date.parse(from) / 1000, to: Date.parse(to) / 1000 }))
    .filter(({ from, to }) => from < day.to && to > day.from)
    .sort((a, b) => a.from - b.from)
  const parts: { from: number; to: number }[] = []
  let free = day.from
  for (const { from, to } of gone) {
    if (from > free) parts.push({ from: free, to: from })
    free = Math.max(free, to)
  }
  if (free < day.to) parts.push({ from: free, to: day.to })
  return parts
}
