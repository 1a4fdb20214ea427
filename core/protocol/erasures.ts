import { z } from 'zod'
import { done, idParam, instant } from './common'
import { contract } from './contract'

export const erasureKinds = ['customer', 'picture'] as const
export type ErasureKind = (typeof erasureKinds)[number]

/** A customer, as somebody decides whether to erase them. */
const erasable = z.strictObject({
  customerId: z.uuid(),
  name: z.string(),
  /** The newest thing that was done for them: a visit, a handover, a callback. */
  lastAt: instant,
  homes: z.array(z.string()),
  jobs: z.int(),
  pictures: z.int(),
  messages: z.int(),
  offers: z.int(),
  /** Why they cannot be erased now, each with what to do. */
  inTheWay: z.array(z.string()),
})
export type Erasable = z.infer<typeof erasable>

const years = z.int().min(1).max(50).nullable()
export const readErasures = contract({
  route: 'GET /api/erasures',
  summary: 'How long customers and pictures are kept, who and what is due to be erased, and what was.',
  access: ['lead'],
  answer: z.strictObject({
    keep: z.strictObject({ customersYears: years, picturesYears: years }),
    due: z.strictObject({ customers: z.array(erasable), moreCustomers: z.boolean(), pictures: z.int() }),
    /** The list stands outside the database as well, so that a backup of before brings nobody back. */
    listKept: z.boolean(),
    erased: z.array(
      z.strictObject({
        id: z.uuid(),
        kind: z.enum(erasureKinds),
        at: instant,
        who: z.string(),
        /** How many, where several pictures of one job went at once. */
        count: z.int(),
        jobs: z.array(z.strictObject({ id: z.uuid(), number: z.int() })),
      }),
    ),
  }),
})
export const findErasable = contract({
  route: 'GET /api/erasures/customers',
  summary: 'Customers by a part of their name, telephone, mail or address, with what would be erased and what stands in the way.',
  access: ['lead'],
  query: z.object({ search: z.string().trim().min(2).max(120) }),
  answer: z.strictObject({ customers: z.array(erasable) }),
})
export const eraseCustomers = contract({
  route: 'POST /api/erasures/customers',
  summary:
    'Erase customers for good: names, telephone, mail, address, notes, signatures, codes, pictures, messages. What was measured and tagged stays. Each wholly or not at all; those who cannot be are answered with why.',
  access: ['lead'],
  body: z.object({ customerIds: z.array(z.uuid()).min(1).max(50) }),
  answer: z.strictObject({
    erased: z.array(z.uuid()),
    left: z.array(z.strictObject({ customerId: z.uuid(), name: z.string(), inTheWay: z.array(z.string()) })),
  }),
})
export const eraseDuePictures = contract({
  route: 'POST /api/erasures/pictures',
  summary: 'Erase the pictures that are older than the company keeps them: up to a thousand at once.',
  access: ['lead'],
  answer: z.strictObject({ erased: z.int(), left: z.int() }),
})
export const erasePicture = contract({
  route: 'POST /api/photos/:id/erase',
  summary: 'Erase one picture for good, and what was said of it.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  answer: done,
})
export const keepFor = contract({
  route: 'PATCH /api/erasures',
  summary: 'How long customers and pictures are kept. Nothing is erased by itself: what is due waits for a lead.',
  access: ['lead'],
  body: z.object({ customersYears: years, picturesYears: years }),
  answer: done,
})
export const erasedJobs = contract({
  route: 'GET /api/erasures/jobs',
  summary: 'Jobs in which something was erased since: what a device kept of them is thrown away.',
  access: 'crew',
  query: z.object({ after: instant }),
  answer: z.strictObject({ jobIds: z.array(z.uuid()), asOf: instant }),
})
