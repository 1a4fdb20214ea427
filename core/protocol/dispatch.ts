import { z } from 'zod'
import { workKinds } from '../dispatch/work'
import { visitKinds } from '../job/words'
import { idParam } from './common'
import { contract } from './contract'

const minutes = z.number().min(0)
const people = z
  .string()
  .max(400)
  .default('')
  .transform((text) => text.split(',').filter(Boolean))
  .pipe(z.array(z.uuid()).max(6))
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
    parts: z.array(z.strictObject({ kind: z.enum(workKinds), count: z.int().positive(), minutes })),
    /** Finished visits it was learnt from. */
    visits: z.int().min(0),
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
