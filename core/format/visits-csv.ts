import { DateTime } from 'luxon'
import { z } from 'zod'
import { clockAt } from '../units/clock-at'
import { visitKinds } from '../job/words'
import { list, pick, readRows, text, writeRows } from './cells'
import type { FileProblem } from './job-file'

const clock = z
  .string()
  .trim()
  .regex(/^([01]?\d|2[0-3]):[0-5]\d$/, 'expects a time such as 08:30')
/** Visits as a table: what is read back moves those with an id and makes those without. Days and times are the branch’s. */
const columns = {
  visit: z
    .string()
    .trim()
    .pipe(z.union([z.literal(''), z.uuid('expects the id of a visit, or nothing')])),
  job: z.string().trim().regex(/^\d+$/, 'expects the number of a job').transform(Number),
  home: text(200),
  kind: pick(visitKinds),
  day: z
    .string()
    .trim()
    .refine((cell) => /^\d{4}-\d\d-\d\d$/.test(cell) && DateTime.fromISO(cell).isValid, 'expects a day such as 2026-11-28'),
  from: clock,
  to: clock,
  promised_from: clock,
  promised_to: clock,
  people: list(z.string().min(1).max(6)),
}
export interface VisitRow {
  line: number
  /** null: a new one. */
  visitId: string | null
  job: number
  kind: (typeof visitKinds)[number]
  /** Instants as ISO text. */
  startsAt: string
  endsAt: string
  windowFrom: string
  windowTo: string
  /** Initials. */
  people: string[]
}

/** Reads such a table; what ends before it begins ends the next day. */
export function readVisits(source: string, zone: string): { rows: VisitRow[]; problems: FileProblem[] } {
  const problems: FileProblem[] = []
  const rows = readRows(columns, '', source, problems).map(({ line, visit, job, kind, day, people, ...times }): VisitRow => {
    const at = (time: string, after?: DateTime) => {
      const moment = clockAt(DateTime.fromISO(day, { zone }), time)
      return after && moment <= after ? moment.plus({ days: 1 }) : moment
    }
    const [from, promisedFrom] = [at(times.from), at(times.promised_from)]
    const iso = (moment: DateTime) => moment.toUTC().toISO()!
    return {
      ...{ line, job, kind, people, visitId: visit || null },
      startsAt: iso(from),
      endsAt: iso(at(times.to, from)),
      windowFrom: iso(promisedFrom),
      windowTo: iso(at(times.promised_to, promisedFrom)),
    }
  })
  for (const { line, people } of rows) if (!people.length) problems.push({ where: `line ${line}`, problem: 'people expects initials.' })
  const ids = rows.flatMap(({ visitId }) => visitId ?? [])
  for (const { line, visitId } of rows)
    if (visitId && ids.indexOf(visitId) !== ids.lastIndexOf(visitId))
      problems.push({ where: `line ${line}`, problem: 'This visit is in the table twice.' })
  if (!rows.length && !problems.length) problems.push({ where: 'line 2', problem: 'There are no visits in this file.' })
  return { rows, problems }
}

export function writeVisits(rows: (Omit<VisitRow, 'line'> & { home: string })[], zone: string): string {
  return writeRows(
    Object.keys(columns),
    rows.map(({ visitId, job, home, kind, startsAt, endsAt, windowFrom, windowTo, people }) => {
      const at = (iso: string) => DateTime.fromISO(iso, { zone })
      const time = (iso: string) => at(iso).toFormat('HH:mm')
      return {
        ...{ visit: visitId ?? '', job, home, kind, people: people.join('; ') },
        day: at(startsAt).toISODate(),
        ...{ from: time(startsAt), to: time(endsAt), promised_from: time(windowFrom), promised_to: time(windowTo) },
      }
    }),
  )
}

/** Who was where for how long, one line for each person of a visit. */
export interface HoursRow {
  person: string
  home: string
  job: number
  kind: string
  startsAt: string
  setOffAt: string | null
  arrivedAt: string | null
  finishedAt: string | null
}
const hoursColumns = ['day', 'person', 'job', 'home', 'kind', 'booked', 'left', 'arrived', 'ended', 'road_hours', 'site_hours']
/** Hours are decimal, to the hundredth; a visit that goes on has none yet. */
export function writeHours(rows: HoursRow[], zone: string): string {
  return writeRows(
    hoursColumns,
    rows.map(({ person, home, job, kind, startsAt, setOffAt, arrivedAt, finishedAt }) => {
      const time = (iso: string | null) => (iso ? DateTime.fromISO(iso, { zone }).toFormat('yyyy-MM-dd HH:mm') : '')
      const hours = (from: string | null, to: string | null) =>
        from && to ? (Math.max(0, Date.parse(to) - Date.parse(from)) / 3_600_000).toFixed(2) : ''
      return {
        ...{ person, job, home, kind },
        day: DateTime.fromISO(arrivedAt ?? startsAt, { zone }).toISODate(),
        ...{ booked: time(startsAt), left: time(setOffAt), arrived: time(arrivedAt), ended: time(finishedAt) },
        ...{ road_hours: hours(setOffAt, arrivedAt), site_hours: hours(arrivedAt, finishedAt) },
      }
    }),
  )
}
