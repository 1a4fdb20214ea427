import { z } from 'zod'
import type { HomesAlike } from '../survey/neutral-prior'
import { pairingCauses } from '../commission/pairing/words'
import { jobFileSchema } from '../format'
import { causeKinds, jobStatuses, oldUnitFates, returnOutcomes, returnStages, type HistoryLine, type JobState } from '../job'
import type { SiteState } from '../site'
import { idSchema } from '../stream'
import { branchQuery, idParam, instant, made, secret, whyCode } from './common'
import { contract } from './contract'
import { otherRecord } from './sites'

const jobLine = z.strictObject({
  id: z.uuid(),
  number: z.int(),
  title: z.string(),
  status: z.string(),
  siteId: z.uuid(),
  siteName: z.string(),
  address: z.string(),
  branchId: z.uuid(),
  customer: z.string(),
  points: z.int(),
  passed: z.int(),
  failed: z.int(),
  openDefects: z.int(),
  nextVisit: instant.nullable(),
})
export type JobLine = z.infer<typeof jobLine>
export const listJobs = contract({
  route: 'GET /api/jobs',
  summary: 'Jobs, newest first, by search, status, branch or site.',
  access: 'crew',
  query: z.object({
    search: z.string().max(100).optional(),
    status: z.enum(jobStatuses).optional(),
    branchId: z.uuid().optional(),
    siteId: z.uuid().optional(),
  }),
  answer: z.strictObject({ jobs: z.array(jobLine) }),
})

const jobPage = z.strictObject({
  job: z.strictObject({ id: z.uuid(), number: z.int(), title: z.string(), branchId: z.uuid(), siteId: z.uuid() }),
  site: z.strictObject({
    id: z.uuid(),
    name: z.string(),
    address: z.string(),
    yearBuilt: z.int().nullable(),
    hasDoorCode: z.boolean(),
    /** Longitude and latitude, as shown on the map or as its address says; null: nobody knows. */
    position: z.tuple([z.number(), z.number()]).nullable(),
    /** Other records that may be this home. */
    otherRecords: z.array(otherRecord),
    /** What was found in homes wired alike; null: none were opened. */
    alike: z.custom<HomesAlike>().nullable(),
  }),
  customer: z.strictObject({ name: z.string(), phone: z.string(), email: z.string() }),
  /** Since then there is no word of the customer in it. */
  erasedAt: instant.nullable(),
  jobState: z.custom<JobState>(),
  siteState: z.custom<SiteState>(),
})
export type JobPage = z.infer<typeof jobPage>
export const readJob = contract({
  route: 'GET /api/jobs/:id',
  summary: 'One job with the folded state of its record and of its site.',
  access: 'crew',
  params: idParam,
  answer: jobPage,
})
export const readHistory = contract({
  route: 'GET /api/jobs/:id/history',
  summary: 'Everything that happened on a job and to the power of its site, newest first.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({ lines: z.array(z.custom<HistoryLine>()) }),
})
export const exportJob = contract({
  route: 'GET /api/jobs/:id/export',
  summary: 'The whole record of a job as an open JSON document, without setup codes.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({
    format: z.literal('circuitry.record'),
    version: z.literal(1),
    exportedAt: instant,
    job: z.strictObject({ id: z.uuid(), number: z.int(), title: z.string(), siteId: z.uuid() }),
    jobEvents: z.unknown(),
    siteEvents: z.unknown(),
  }),
  leaves: { deed: 'file', of: 'the whole record' },
})
export const readPack = contract({
  route: 'GET /api/jobs/:id/pack',
  summary: 'The handover pack as PDF: points, circuits, tests, codes, and what to do without internet. The reading of its codes is logged.',
  access: 'crew',
  params: idParam,
  file: 'application/pdf',
  leaves: { deed: 'file', of: 'the handover pack' },
})
export const verificationPaper = contract({
  route: 'GET /api/jobs/:id/verification',
  summary: 'What was measured on the circuits of a 230 V job after the work, with limits and results (PDF).',
  access: 'crew',
  params: idParam,
  file: 'application/pdf',
})
export const bagLabels = contract({
  route: 'GET /api/jobs/:id/bag-labels',
  summary: 'Labels for the bags of a job, one for each box that waits for a device: what goes in, and a square code that opens the box.',
  access: 'crew',
  params: idParam,
  file: 'application/pdf',
})
export const otherNames = contract({
  route: 'GET /api/jobs/:id/other-names',
  summary: 'Names of devices in the same home that other jobs put in: no phrase may move one of them and one of this job.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({ names: z.array(z.strictObject({ id: z.uuid(), name: z.string(), room: z.string(), at: z.string() })) }),
})
export const nameLabels = contract({
  route: 'GET /api/jobs/:id/name-labels',
  summary: 'Labels for the wall with the names of a home’s devices, to be cut out.',
  access: 'crew',
  params: idParam,
  file: 'application/pdf',
})
export const readSchedules = contract({
  route: 'GET /api/jobs/:id/schedules',
  summary:
    'What a home does by itself, for its people: a plain sheet (PDF), or its schedules of the coming year as a calendar (iCalendar).',
  access: 'crew',
  params: idParam,
  query: z.object({ as: z.enum(['pdf', 'ics']).default('pdf') }),
  file: 'application/pdf or text/calendar',
})
const causeCounts = z.partialRecord(z.enum(pairingCauses), z.int().min(0))
export const readPairings = contract({
  route: 'GET /api/pairings',
  summary: 'What the company has learnt of joining devices: what had kept them from it by radio and by model, and how long each takes.',
  access: 'crew',
  answer: z.strictObject({
    causes: z.partialRecord(z.enum(['wifi', 'mesh', 'hub']), causeCounts),
    models: z.record(z.uuid(), z.strictObject({ causes: causeCounts, joins: z.number().positive().nullable() })),
  }),
})
export const readSurvey = contract({
  route: 'GET /api/jobs/:id/survey',
  summary: 'The survey of a home: as a job file that the import reads again, as tables (CSV, in one archive), or as a paper (PDF).',
  access: 'crew',
  params: idParam,
  query: z.object({ as: z.enum(['json', 'tables', 'pdf']).default('json') }),
  answer: jobFileSchema,
  file: 'application/zip or application/pdf',
  leaves: { deed: 'file', of: 'the survey' },
})
export const readSetupCode = contract({
  route: 'GET /api/jobs/:id/units/:unitId/code',
  summary: 'The setup code of a device. Every reading is logged; a dispatcher without a visit there says why.',
  access: 'crew',
  params: z.object({ id: z.uuid(), unitId: z.uuid() }),
  query: whyCode,
  answer: secret,
})

const text = z.string().min(1).max(1_500_000)
const head = jobFileSchema.pick({ job: true, customer: true, site: true })
const source = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('json'), text }),
  z.object({ kind: z.literal('csv'), text, head }),
  /** Tables of a survey, each by its name. */
  z.object({
    kind: z.literal('tables'),
    tables: z
      .array(z.object({ name: z.string().min(1).max(200), text }))
      .min(1)
      .max(20),
    head,
  }),
  z.object({ kind: z.literal('file'), file: jobFileSchema }),
])
const intake = z.object({
  branchId: z.uuid(),
  /** A home the company already knows; its customer and door code are kept. */
  siteId: z.uuid().nullable().default(null),
  /** It is another home, although one on record looks like it. */
  newHome: z.boolean().default(false),
  /** Only say what is in it or what is wrong; store nothing. */
  checkOnly: z.boolean().default(false),
  source,
})
export type IntakeSource = z.infer<typeof source>
export type IntakeRequest = Omit<z.infer<typeof intake>, 'checkOnly'>
const knownHome = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  address: z.string(),
  customer: z.string(),
  /** What is alike. */
  why: z.array(z.string()),
})
export type KnownHome = z.infer<typeof knownHome>
const checked = z.strictObject({
  knownHomes: z.array(knownHome),
  title: z.string(),
  rooms: z.int(),
  boxes: z.int(),
  points: z.int(),
  breakers: z.int(),
})
export const importJob = contract({
  route: 'POST /api/jobs/import',
  summary: 'Open a job from a job file, a CSV of points or the form. A broken file answers 422 with every problem and imports nothing.',
  access: ['dispatcher', 'lead'],
  body: intake,
  answer: z.union([z.strictObject({ jobId: z.uuid(), siteId: z.uuid() }), checked]),
})

/** The bytes of a picture go as they are. */
export const storePhoto = contract({
  route: 'POST /api/jobs/:id/photos',
  summary:
    'Store a picture (JPEG, PNG or WebP, at most 8 MB, sent as the raw body) for the command addPhoto. It is drawn anew, without what the phone wrote into it.',
  access: 'crew',
  params: idParam,
  query: z.object({ id: idSchema.optional() }),
  sends: 'image/jpeg, image/png or image/webp',
  answer: made,
})
export const readPhoto = contract({
  route: 'GET /api/photos/:id',
  summary: 'A picture of a job.',
  access: 'crew',
  params: idParam,
  query: z.object({ size: z.enum(['full', 'small']).default('full') }),
  file: 'image/*',
})

const dayVisit = z.strictObject({
  id: z.uuid(),
  jobId: z.uuid(),
  siteId: z.uuid(),
  branchId: z.uuid(),
  kind: z.string(),
  status: z.string(),
  callbackId: z.uuid().nullable(),
  startsAt: instant,
  endsAt: instant,
  windowFrom: instant,
  windowTo: instant,
  setOffAt: instant.nullable(),
  expectedAt: instant.nullable(),
  arrivedAt: instant.nullable(),
  finishedAt: instant.nullable(),
  personIds: z.array(z.uuid()),
  jobTitle: z.string(),
  jobNumber: z.int(),
  jobStatus: z.string(),
  siteName: z.string(),
  address: z.string(),
  points: z.int(),
  passed: z.int(),
  failed: z.int(),
  tags: z.array(z.string()),
})
export type DayVisit = z.infer<typeof dayVisit>
export const listVisits = contract({
  route: 'GET /api/visits',
  summary: 'Visits between two instants, with crew, progress and hanging tags.',
  access: 'crew',
  query: z.object({ from: instant, to: instant, branchId: z.uuid().optional(), mine: z.enum(['yes', 'no']).optional() }),
  answer: z.strictObject({ visits: z.array(dayVisit) }),
})

const callbackLine = z.strictObject({
  id: z.uuid(),
  jobId: z.uuid(),
  unitId: z.uuid(),
  what: z.string(),
  status: z.string(),
  causeKind: z.string().nullable(),
  remedy: z.string().nullable(),
  openedAt: instant,
  closedAt: instant.nullable(),
  jobTitle: z.string(),
  jobNumber: z.int(),
  siteName: z.string(),
  unitName: z.string(),
  serial: z.string(),
  branchId: z.uuid(),
  visitAt: instant.nullable(),
  causeId: z.string().nullable(),
  cause: z.string(),
  payer: z.string().nullable(),
  /** The day on which the customer is asked whether it stayed mended. */
  callBackOn: z.iso.date().nullable(),
  /** Something dangerous was told on the telephone. */
  danger: z.boolean(),
})
export type CallbackLine = z.infer<typeof callbackLine>
export const listCallbacks = contract({
  route: 'GET /api/callbacks',
  summary: 'Callbacks, open ones first.',
  access: 'crew',
  query: branchQuery,
  answer: z.strictObject({ callbacks: z.array(callbackLine) }),
})

const outDevice = z.strictObject({
  jobId: z.uuid(),
  jobNumber: z.int(),
  siteName: z.string(),
  branchId: z.uuid(),
  callbackId: z.uuid().nullable(),
  serial: z.string(),
  model: z.string(),
  goes: z.enum(oldUnitFates),
  stage: z.enum(returnStages),
  dueOn: z.iso.date().nullable(),
  reference: z.string(),
  outcome: z.enum(returnOutcomes).nullable(),
  creditCents: z.int().nullable(),
  outAt: instant,
})
export type OutDeviceLine = z.infer<typeof outDevice>
export const listReturns = contract({
  route: 'GET /api/returns',
  summary: 'Devices that came out of the wall or failed in the shop: what is still open by its day, then what was settled last.',
  access: 'crew',
  query: branchQuery,
  answer: z.strictObject({ devices: z.array(outDevice), more: z.int() }),
})
const batteryLine = z.strictObject({
  unitId: z.uuid(),
  jobId: z.uuid(),
  jobNumber: z.int(),
  branchId: z.uuid(),
  siteName: z.string(),
  place: z.string(),
  name: z.string(),
  serial: z.string(),
  model: z.string(),
  dueOn: z.iso.date(),
  customer: z.string(),
  phone: z.string(),
})
export type BatteryLine = z.infer<typeof batteryLine>
export const listBatteries = contract({
  route: 'GET /api/batteries',
  summary: 'Batteries of all homes that are due within sixty days or were, the longest overdue first, with whom to call.',
  access: ['dispatcher', 'lead'],
  query: branchQuery,
  answer: z.strictObject({ batteries: z.array(batteryLine), more: z.int() }),
})
export const returnsTable = contract({
  route: 'GET /api/returns/table',
  summary: 'The same with what each maker asks for: dates, days in the wall, what was seen and what shows it, warranty number (CSV).',
  access: ['dispatcher', 'lead'],
  query: branchQuery,
  file: 'text/csv',
  leaves: { deed: 'file', of: 'the table of devices that are out' },
})
export const claimPaper = contract({
  route: 'GET /api/jobs/:id/claim',
  summary:
    'What a maker needs to see of one device that is out: dates, symptom, what shows the cause, tests, pictures; nobody’s name or address (PDF).',
  access: 'crew',
  params: idParam,
  query: z.object({
    serial: z.string().min(1).max(60),
    /** Pictures that go along, by their ids, divided by commas. */
    photos: z
      .string()
      .regex(/^[0-9a-f-]{36}(,[0-9a-f-]{36}){0,5}$/)
      .optional()
      .transform((ids) => ids?.split(',') ?? []),
  }),
  file: 'application/pdf',
})
const alike = z.strictObject({
  callbackId: z.uuid(),
  jobId: z.uuid(),
  jobNumber: z.int(),
  siteName: z.string(),
  serial: z.string(),
  what: z.string(),
  cause: z.string(),
  status: z.string(),
  openedAt: instant,
})
export type AlikeCallback = z.infer<typeof alike>
export const callbackStory = contract({
  route: 'GET /api/jobs/:id/callbacks/:callbackId/story',
  summary: 'What the same place, the same home and the same model were called back for before, and what follows from it.',
  access: 'crew',
  params: idParam.extend({ callbackId: z.uuid() }),
  answer: z.strictObject({
    says: z.array(z.string()),
    place: z.array(alike),
    home: z.array(alike),
    model: z.array(alike),
  }),
})

const counts = z.record(z.string(), z.int().min(0))
export const readTriage = contract({
  route: 'GET /api/triage',
  summary: 'What closed callbacks of the company have taught: how often each cause was met, and what was said under it.',
  access: 'crew',
  answer: z.strictObject({
    taught: z.strictObject({
      closed: z.int().min(0),
      causes: counts,
      byModel: z.record(z.string(), counts),
      symptoms: z.record(z.string(), counts),
      answers: z.record(z.string(), z.record(z.string(), z.array(z.int().min(0)))),
      tried: z.record(z.string(), z.strictObject({ times: z.int().min(0), mended: z.int().min(0) })),
      own: z.array(z.strictObject({ id: z.string(), kind: z.enum(causeKinds), words: z.string() })),
    }),
  }),
})

const unitLine = z.strictObject({
  id: z.uuid(),
  jobId: z.uuid(),
  serial: z.string(),
  name: z.string(),
  model: z.string(),
  /** Room and box. */
  place: z.string(),
  siteName: z.string(),
  address: z.string(),
  customer: z.string(),
  installedAt: instant,
})
export type UnitLine = z.infer<typeof unitLine>
export const findUnits = contract({
  route: 'GET /api/units',
  summary: 'Installed units by any words of serial, name, home, street, customer, phone or room.',
  access: 'crew',
  query: z.object({ search: z.string().max(100).default('') }),
  answer: z.strictObject({ units: z.array(unitLine) }),
})
