import { z } from 'zod'
import { workKinds } from '../dispatch/work'
import { visitKinds } from '../job/words'
import { positionSchema, roadMapSchema } from '../dispatch/travel/road-map.schema'
import { done, idParam, instant } from './common'
import { contract } from './contract'

const minutes = z.number().min(0)
const people = z
  .string()
  .max(400)
  .default('')
  .transform((text) => text.split(',').filter(Boolean))
  .pipe(z.array(z.uuid()).max(6))
/** Whom a visit takes. */
const needs = z.strictObject({ people: z.int(), skills: z.array(z.string()) })
export const readDuration = contract({
  route: 'GET /api/jobs/:id/duration',
  summary: 'How long a visit of this kind takes on a job, by what is left to do and by the visits the branch has finished.',
  access: 'crew',
  params: idParam,
  query: z.object({ kind: z.enum(visitKinds).default('install'), people }),
  answer: z.strictObject({
    minutes,
    /** Four of five such visits lie between. */
    low: minutes,
    high: minutes,
    /** To book, in halves of an hour. */
    hours: z.number().positive(),
    parts: z.array(z.strictObject({ kind: z.enum(workKinds), count: z.number().positive(), minutes })),
    /** Finished visits it was learnt from. */
    visits: z.int().min(0),
    needs,
  }),
})
const learnt = z.strictObject({
  kind: z.enum(workKinds),
  /** Visits that had it. */
  seen: z.int().positive(),
  baseMinutes: minutes,
  /** As it was learnt, drawn towards the base while little was seen. */
  minutes,
})
export type LearntDuration = z.infer<typeof learnt>
export const readDurations = contract({
  route: 'GET /api/durations',
  summary: 'What the finished visits of a branch say of each kind of work, against what it was taken to need.',
  access: ['dispatcher', 'lead'],
  query: z.object({ branchId: z.uuid() }),
  answer: z.strictObject({ visits: z.int().min(0), kinds: z.array(learnt) }),
})

export const readRoads = contract({
  route: 'GET /api/roads',
  summary:
    'The roads that travel is worked out on, as GeoJSON: stretches between junctions, with ferries, bridges and traffic by the clock.',
  access: 'crew',
  answer: roadMapSchema,
})

const taken = {
  needs,
  /** Vans that have all its parts on board; null where it needs none. */
  partsIn: z.array(z.uuid()).nullable(),
}
const dayVisit = z.strictObject({
  ...taken,
  id: z.uuid(),
  jobId: z.uuid(),
  siteId: z.uuid(),
  kind: z.enum(visitKinds),
  callbackId: z.uuid().nullable(),
  status: z.enum(['planned', 'onSite', 'done']),
  personIds: z.array(z.uuid()),
  startsAt: instant,
  endsAt: instant,
  windowFrom: instant,
  windowTo: instant,
  setOffAt: instant.nullable(),
  arrivedAt: instant.nullable(),
  finishedAt: instant.nullable(),
  minutes,
  /** Of the logarithm of the work. */
  spread: minutes,
  /** What its people have left open there, in words. */
  tied: z.string().nullable(),
})
const openWork = z.strictObject({
  ...taken,
  id: z.uuid(),
  jobId: z.uuid(),
  siteId: z.uuid(),
  kind: z.enum(visitKinds),
  callbackId: z.uuid().nullable(),
  since: instant,
  /** The day by which somebody is there, as the branch promises. */
  by: z.iso.date().nullable(),
  minutes,
  spread: minutes,
  /** Parts that it needs and that are not here. */
  lacks: z.string().nullable(),
})
const span = z.strictObject({ from: instant, to: instant })
export const readDay = contract({
  route: 'GET /api/dispatch/day',
  summary:
    'What a branch has to do on a day and with whom: visits with their expected work, what waits, people, shift, and where the homes are.',
  access: ['dispatcher', 'lead'],
  query: z.object({ branchId: z.uuid(), date: z.iso.date() }),
  answer: z.strictObject({
    zone: z.string(),
    date: z.iso.date(),
    shift: span.extend({ latest: instant }),
    rest: span.extend({ minutes: z.int() }).nullable(),
    store: positionSchema.nullable(),
    people: z.array(
      z.strictObject({ id: z.uuid(), licensed: z.boolean(), role: z.string(), vanId: z.uuid().nullable(), skills: z.array(z.string()) }),
    ),
    away: z.array(z.strictObject({ personId: z.uuid(), from: instant, to: instant })),
    homes: z.array(
      z.strictObject({
        siteId: z.uuid(),
        name: z.string(),
        position: positionSchema.nullable(),
        /** Somebody showed it on the map; else it follows from the address. */
        shown: z.boolean(),
      }),
    ),
    visits: z.array(dayVisit),
    open: z.array(openWork),
  }),
})

export const placeHome = contract({
  route: 'POST /api/sites/:id/place',
  summary: 'Say where a home is, by longitude and latitude; null lets it follow from its address again.',
  access: 'crew',
  params: idParam,
  body: z.object({ position: positionSchema.nullable() }),
  answer: done,
})

export const plannedVisit = z.object({
  jobId: z.uuid(),
  /** Of the visit that is moved; a new one has an id of its own. */
  visitId: z.uuid(),
  /** Makes a new visit. */
  makes: z.object({ kind: z.enum(visitKinds), callbackId: z.uuid().nullable() }).nullable(),
  /** What it was when it was looked at: another one’s change in between is not overwritten. */
  was: z.object({ startsAt: instant, personIds: z.array(z.uuid()) }).nullable(),
  personIds: z.array(z.uuid()).min(1).max(12),
  startsAt: instant,
  endsAt: instant,
  windowFrom: instant,
  windowTo: instant,
})
export type PlannedVisit = z.infer<typeof plannedVisit>
export const acceptPlan = contract({
  route: 'POST /api/dispatch/plans',
  summary:
    'Take a plan over: all its visits or none. Refused with who and where if somebody would be in two places, if a visit was changed meanwhile, or if somebody has things left open at a home.',
  access: ['dispatcher', 'lead'],
  body: z.object({
    /** The same id again gives the same answer. */
    id: z.uuid(),
    branchId: z.uuid(),
    visits: z.array(plannedVisit).min(1).max(120),
  }),
  answer: z.strictObject({ moved: z.int(), made: z.int() }),
})

const days = z
  .object({ branchId: z.uuid(), from: z.iso.date(), to: z.iso.date() })
  .refine(({ from, to }) => from <= to && Date.parse(to) - Date.parse(from) <= 93 * 86_400_000, {
    message: 'At most three months, from a day to a later one.',
    path: ['to'],
  })
export const visitsTable = contract({
  route: 'GET /api/dispatch/visits',
  summary: 'Visits of a branch between two days as CSV, to be changed in a spreadsheet and read back.',
  access: ['dispatcher', 'lead'],
  query: days,
  file: 'text/csv',
  leaves: { deed: 'file', of: 'the table of visits' },
})
export const readVisitsTable = contract({
  route: 'POST /api/dispatch/visits',
  summary: 'Read such a table back: rows with an id move a visit, rows without make one. All of it or nothing, by the rules of a plan.',
  access: ['dispatcher', 'lead'],
  body: z.object({
    id: z.uuid(),
    branchId: z.uuid(),
    text: z.string().max(1_000_000),
    /** Only say what it would do. */
    checkOnly: z.boolean().default(false),
  }),
  answer: z.strictObject({ moved: z.int(), made: z.int(), same: z.int() }),
})
export const hoursTable = contract({
  route: 'GET /api/dispatch/hours',
  summary: 'Hours on the road and on site by person and visit between two days, as CSV.',
  access: ['dispatcher', 'lead'],
  query: days,
  file: 'text/csv',
  leaves: { deed: 'file', of: 'the table of hours' },
})
export const daySheet = contract({
  route: 'GET /api/dispatch/sheet',
  summary:
    'A day on paper (PDF), a part for each person: where, when, what was promised, what to load. One’s own, or for the office everybody’s.',
  access: 'crew',
  query: z.object({ branchId: z.uuid(), date: z.iso.date() }),
  file: 'application/pdf',
})

export const readWeek = contract({
  route: 'GET /api/dispatch/week',
  summary: 'A week of a branch from a day on: capacity and what is booked of it, who is away, and what waits for a visit.',
  access: ['dispatcher', 'lead'],
  query: z.object({ branchId: z.uuid(), from: z.iso.date() }),
  answer: z.strictObject({
    days: z.array(
      z.strictObject({
        date: z.iso.date(),
        worked: z.boolean(),
        /** Minutes of people who lead or go beside somebody. */
        capacity: minutes,
        booked: minutes,
        visits: z.int(),
        away: z.array(z.uuid()),
      }),
    ),
    waiting: z.strictObject({ count: z.int(), minutes }),
  }),
})
