import { z } from 'zod'
import { nearMissKinds } from '../insight/near-misses'
import { causeKinds, payers, visitKinds } from '../job/words'
import { idParam, instant } from './common'
import { contract } from './contract'

const rate = z.strictObject({ rate: z.number(), low: z.number(), high: z.number() })
const office = ['dispatcher', 'lead'] as const
const ofBranch = z.object({ branchId: z.uuid().optional() })

const modelInsight = z.strictObject({
  model: z.string(),
  inWall: z.int(),
  installed: z.int(),
  years: z.number(),
  failed: z.int(),
  first: z.int(),
  early: z.int(),
  perHundred: rate,
  beyond: z.enum(['more', 'fewer']).nullable(),
  afterYear: z.strictObject({ survival: z.number(), low: z.number(), high: z.number() }).nullable(),
  expected: z.number(),
  advice: z.strictObject({ what: z.enum(['stopBuying', 'watch']), sure: z.number() }).nullable(),
  soon: z.number().nullable(),
  steps: z.array(
    z.strictObject({ day: z.number(), atRisk: z.int(), failed: z.int(), survival: z.number(), low: z.number(), high: z.number() }),
  ),
})
export type ModelInsightLine = z.infer<typeof modelInsight>
const months = z.array(z.strictObject({ month: z.string(), handedOver: z.int(), callbacks: z.int() }))
const insight = z.strictObject({
  models: z.array(modelInsight),
  /** Handed over at least so many days ago, and no callback within them. */
  firstTime: z.strictObject({ days: z.int(), jobs: z.int(), quiet: z.int(), share: rate }),
  /** The same by when the home was built, oldest first; beyond: more or fewer callbacks than chance makes. */
  ages: z.array(
    z.strictObject({ age: z.string(), jobs: z.int(), quiet: z.int(), share: rate, beyond: z.enum(['more', 'fewer']).nullable() }),
  ),
  causes: z.array(z.strictObject({ kind: z.enum(causeKinds).nullable(), count: z.int() })),
  payers: z.array(z.strictObject({ payer: z.enum(payers).nullable(), count: z.int() })),
  months,
  /** Since when there are more callbacks than before; null: nothing has changed as far as can be told. */
  risenSince: z.string().nullable(),
})
export type Insight = z.infer<typeof insight>
export const readInsight = contract({
  route: 'GET /api/insight',
  summary:
    'What the company has learnt of its devices and callbacks: how long models live, which fail more than chance makes, what came back.',
  access: office,
  query: ofBranch,
  answer: insight,
})
const ownInsight = z.strictObject({
  /** Finished by them, and how many say something. */
  visits: z.int(),
  needed: z.int(),
  days: z.int(),
  /** Homes they worked in that were handed over so many days ago; null: too few to say anything. */
  homes: z
    .strictObject({
      jobs: z.int(),
      quiet: z.int(),
      share: rate,
      company: z.number(),
      /** More or fewer callbacks than chance makes of what the company has. */
      beyond: z.enum(['more', 'fewer']).nullable(),
    })
    .nullable(),
})
export type OwnInsight = z.infer<typeof ownInsight>
export const readOwnInsight = contract({
  route: 'GET /api/me/insight',
  summary: 'One’s own: homes one worked in that needed nobody again, from thirty visits on. Nobody else is shown it.',
  access: 'crew',
  answer: ownInsight,
})
export const insightTable = contract({
  route: 'GET /api/insight/models',
  summary: 'Models with what became of them, as a table (CSV).',
  access: office,
  query: ofBranch,
  file: 'text/csv',
})
export const readSoak = contract({
  route: 'GET /api/jobs/:id/soak',
  summary:
    'Models in this job whose devices fail in their first two days so often that somebody stays for an hour, or calls on the second day.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({
    models: z.array(z.strictObject({ model: z.string(), failed: z.int(), of: z.int(), sure: z.number() })),
  }),
})
const failure = z.strictObject({
  jobId: z.uuid(),
  number: z.int(),
  siteName: z.string(),
  place: z.string(),
  serial: z.string(),
  installedAt: instant,
  days: z.int(),
  /** What was found; empty: not diagnosed. */
  cause: z.string(),
})
export type DeviceFailure = z.infer<typeof failure>
export const readFailures = contract({
  route: 'GET /api/insight/failures',
  summary: 'The devices of a model that failed, newest first, each with the job behind it.',
  access: office,
  query: ofBranch.extend({ model: z.string().min(1).max(160) }),
  answer: z.strictObject({ failures: z.array(failure), more: z.int() }),
})

const workInsight = z.strictObject({
  /** Visits that ended within so many days, with when somebody arrived. */
  days: z.int(),
  kinds: z.array(
    z.strictObject({
      kind: z.enum(visitKinds),
      visits: z.int(),
      bookedHours: z.number(),
      takenHours: z.number(),
      /** Took a quarter of an hour and more longer than booked. */
      over: z.int(),
      /** Of those for which somebody said that they left: on the way, hours. */
      wayHours: z.number(),
      ways: z.int(),
    }),
  ),
  /** The ones that went over most. */
  longest: z.array(
    z.strictObject({
      jobId: z.uuid(),
      number: z.int(),
      siteName: z.string(),
      kind: z.enum(visitKinds),
      at: instant,
      bookedMinutes: z.int(),
      takenMinutes: z.int(),
    }),
  ),
  /** On so many days in a home, whoever it was and however often they tried. */
  nearMisses: z.array(
    z.strictObject({
      kind: z.enum(nearMissKinds),
      code: z.string(),
      days: z.int(),
      homes: z.array(z.strictObject({ siteName: z.string(), jobId: z.uuid().nullable(), at: instant })),
    }),
  ),
})
export type WorkInsight = z.infer<typeof workInsight>
export const readWork = contract({
  route: 'GET /api/insight/work',
  summary:
    'The last year’s visits: minutes booked and taken, on the way, which went over most; what was refused before it could hurt somebody, and proofs that ended under somebody’s hands, with the homes. Nobody’s name is in it.',
  access: office,
  query: ofBranch,
  answer: workInsight,
})
