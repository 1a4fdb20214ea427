import { isAway, present, workedParts, type Away } from '../away'
import type { BoardCrew } from './crews'
import type { DayFile, DayFileVisit } from './day-file'

const isLicensed = ({ people }: Pick<DayFile, 'people'>, ids: readonly string[]): boolean =>
  people.some(({ id, licensed }) => licensed && ids.includes(id))

/** Who of a visit’s people will be there: without their licensed one the others do not go alone. */
export function comersOf(file: Pick<DayFile, 'people' | 'away'>, visit: DayFileVisit): string[] {
  if (visit.status !== 'planned') return visit.personIds
  const left = present(file.away, visit)
  return visit.kind === 'survey' || isLicensed(file, left) || !isLicensed(file, visit.personIds) ? left : []
}

/** A visit that somebody is away from is theirs until others have it: nothing else is put over it. */
const heldBack = ({ away, visits }: Pick<DayFile, 'away' | 'visits'>): Away[] =>
  visits
    .filter(({ status }) => status === 'planned')
    .flatMap(({ personIds, startsAt, endsAt }) =>
      personIds.flatMap((personId) => (isAway(away, personId, startsAt, endsAt) ? [{ personId, from: startsAt, to: endsAt }] : [])),
    )

/** The parts of a shift in which a crew can work, in order: without whom it may not work at all, it does not. Seconds. */
export function partsOf(
  file: Pick<DayFile, 'people' | 'away' | 'visits'>,
  { id, steadyIds, licensed }: BoardCrew,
  shift: { from: number; to: number },
): { from: number; to: number }[] {
  const lastLicence = (one: string) =>
    licensed &&
    !isLicensed(
      file,
      steadyIds.filter((other) => other !== one),
    )
  const needed = steadyIds.filter((one) => one === id || lastLicence(one))
  const gone = [...file.away, ...heldBack(file)].filter(({ personId }) => needed.includes(personId))
  return workedParts(
    gone.map((one) => ({ ...one, personId: id })),
    id,
    shift,
  )
}
