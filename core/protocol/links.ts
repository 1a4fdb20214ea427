import { z } from 'zod'
import { linkAnswerSchema, linkTaskSchema, meterTraceSchema } from '../link/device-link.schema'
import { linkDoings } from '../link/words'
import { done, idParam, instant, made } from './common'
import { contract } from './contract'

const link = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  madeBy: z.string(),
  pairedAt: instant.nullable(),
  /** Last heard of; null: never. */
  seenAt: instant.nullable(),
  /** Asking for work just now. */
  online: z.boolean(),
  /** Homes whose installer it holds. */
  holds: z.array(z.string()),
})
export type DeviceLinkLine = z.infer<typeof link>
export const listLinks = contract({
  route: 'GET /api/links',
  summary: 'Laptops that reach devices in homes for this company.',
  access: 'crew',
  answer: z.strictObject({ links: z.array(link) }),
})
export const makeLink = contract({
  route: 'POST /api/links',
  summary: 'A one-time code with which a laptop becomes a link of this company; it holds for ten minutes and is shown once.',
  access: ['dispatcher', 'lead', 'technician'],
  body: z.object({ id: z.uuid(), name: z.string().trim().min(2).max(60) }),
  answer: z.strictObject({ id: z.uuid(), code: z.string(), until: instant }),
  leaves: { deed: 'link', of: 'made' },
})
export const endLink = contract({
  route: 'POST /api/links/:id/end',
  summary: 'A laptop is no link of this company any more. While it holds the installer of a home it is only ended on purpose.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  body: z.object({ despiteHomes: z.boolean() }),
  answer: done,
  leaves: { deed: 'link', of: 'ended' },
})

const ask = z.strictObject({
  id: z.uuid(),
  unitId: z.uuid(),
  doing: z.enum(linkDoings),
  state: z.enum(['waiting', 'taken', 'done', 'failed']),
  /** What came of it, in words; empty while it is not done. */
  said: z.string(),
  askedBy: z.string(),
  askedAt: instant,
  doneAt: instant.nullable(),
  /** What its meter read. */
  trace: meterTraceSchema.nullable(),
  /** The code of a device that is open for one more home, while it is. */
  opened: z.strictObject({ code: z.string(), square: z.string(), until: instant }).nullable(),
})
export type LinkAskLine = z.infer<typeof ask>
const jobLink = z.strictObject({
  /** The link that reaches this home: the one that holds its installer, or one that could. */
  link: link.pick({ id: true, name: true, online: true }).nullable(),
  /** Whether it holds the installer of this home. */
  holds: z.boolean(),
  asks: z.array(ask),
})
export type JobLink = z.infer<typeof jobLink>
export const readJobLink = contract({
  route: 'GET /api/jobs/:id/link',
  summary: 'How the devices of a job are reached, and what was asked of the link lately.',
  access: 'crew',
  params: idParam,
  answer: jobLink,
})
export const askLink = contract({
  route: 'POST /api/jobs/:id/link',
  summary:
    'Asks the link to join, test, read the meter of, name, open or leave a device, or who is on it. The same id again is the same question.',
  access: 'crew',
  params: idParam,
  body: z.object({
    id: z.uuid(),
    unitId: z.uuid(),
    doing: z.enum(linkDoings),
    /** Nobody is at what moves, and whoever is near knows. */
    clear: z.boolean().default(false),
    /** Joining: the code that the app shows which has the device already; else that on record is taken. */
    code: z.string().trim().max(200).default(''),
    /** Leaving: also where no other home is on it. */
    anyway: z.boolean().default(false),
  }),
  answer: made,
})

export const pairLink = contract({
  route: 'POST /api/link/pair',
  summary: 'A laptop changes its one-time code for a pass. The code is worth nothing afterwards.',
  access: 'public',
  body: z.object({ code: z.string().trim().min(4).max(40), name: z.string().trim().max(60).default('') }),
  answer: z.strictObject({ linkId: z.uuid(), key: z.string() }),
})
export const takeLinkTasks = contract({
  route: 'POST /api/link/take',
  summary: 'The link asks for work, with its pass as bearer. Answers as soon as there is some, or after a while with none.',
  access: 'public',
  body: z.strictObject({}),
  answer: z.strictObject({ tasks: z.array(linkTaskSchema) }),
})
export const giveLinkAnswer = contract({
  route: 'POST /api/link/answers',
  summary: 'What came of one task. The same again changes nothing.',
  access: 'public',
  body: z.object({ id: z.uuid(), answer: linkAnswerSchema }),
  answer: done,
})
