import { z } from 'zod'
import { articleBodySchema, articleSchema, type Article } from '../quote/article.schema'
import { currencyIds } from '../money/money'
import { quoteContentSchema, ticksSchema } from '../quote/content.schema'
import { strokesSchema } from '../site/parts.schema'
import { idParam, instant, made } from './common'
import { contract } from './contract'

export type { Article }
export const listArticles = contract({
  route: 'GET /api/articles',
  summary: 'Articles of a branch with prices, numbers under the bars, shelves and where they are bought.',
  access: 'crew',
  query: z.object({ branchId: z.uuid() }),
  answer: z.strictObject({ articles: z.array(articleSchema) }),
})
export const addArticle = contract({
  route: 'POST /api/articles',
  summary: 'Add an article to the list of a branch.',
  access: ['dispatcher', 'lead'],
  body: articleBodySchema.extend({ branchId: z.uuid() }),
  answer: made,
})
export const changeArticle = contract({
  route: 'PATCH /api/articles/:id',
  summary: 'Change an article, or take it off the list. Quotes that are out keep their prices.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  body: z.object({ active: z.boolean().optional(), article: articleBodySchema.optional() }),
  answer: made,
})
const seen = z.strictObject({ callbacks: z.int(), deviceYears: z.number() })
export const modelRecord = contract({
  route: 'GET /api/articles/record',
  summary: 'What the company has seen of each model: callbacks, and devices times years.',
  access: 'crew',
  answer: z.strictObject({ record: z.record(z.uuid(), seen) }),
})
export const fillArticles = contract({
  route: 'POST /api/articles/fill',
  summary: 'Take every model and part of the company’s lists into the articles of a branch that are not there yet, without prices.',
  access: ['dispatcher', 'lead'],
  body: z.object({ branchId: z.uuid() }),
  answer: z.strictObject({ added: z.int() }),
})

const status = z.enum(['open', 'accepted', 'declined', 'withdrawn', 'replaced'])
const quoteLine = z.strictObject({
  id: z.uuid(),
  number: z.string(),
  kind: z.enum(['quote', 'change']),
  status,
  madeAt: instant,
  madeBy: z.string(),
  validUntil: z.iso.date(),
  decidedAt: instant.nullable(),
  signer: z.string().nullable(),
  reason: z.string(),
  currency: z.enum(currencyIds),
  /** With all rooms and no options until it is accepted, then what was taken. */
  totalCents: z.int(),
  /** Path of the customer’s page. */
  link: z.string().nullable(),
})
export type QuoteLineView = z.infer<typeof quoteLine>
export const listQuotes = contract({
  route: 'GET /api/jobs/:id/quotes',
  summary: 'Offers and changes of a job, newest first, with the links of those that are open.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({ quotes: z.array(quoteLine) }),
})
const solutionId = z.string().min(1).max(1000)
export const makeQuote = contract({
  route: 'POST /api/jobs/:id/quotes',
  summary: 'Offer a plan. It is summed up anew from the lists of the branch; an open offer of the job is replaced.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  body: z.object({
    /** Solutions by id, as the planner names them. */
    chosen: z.array(solutionId).min(1).max(400),
    /** Of another plan: where it differs, the customer may tick it. */
    optional: z.array(solutionId).max(400).nullable().default(null),
    discountBasisPoints: z.int().min(0).max(9000).default(0),
  }),
  answer: z.strictObject({ id: z.uuid(), number: z.string(), link: z.string() }),
})
export const withdrawQuote = contract({
  route: 'POST /api/quotes/:id/withdraw',
  summary: 'Take an open offer back: its link says so.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  body: z.object({ reason: z.string().trim().max(500) }),
  answer: made,
})
export const quotePaper = contract({
  route: 'GET /api/quotes/:id/paper',
  summary: 'An offer as a paper (PDF).',
  access: 'crew',
  params: idParam,
  file: 'application/pdf',
})
export const quoteInvoice = contract({
  route: 'GET /api/quotes/:id/invoice',
  summary: 'What was agreed, for bookkeeping: lines, taxes, deposit and rest, as JSON with a schema or as CSV.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  query: z.object({ as: z.enum(['json', 'csv']).default('json') }),
  answer: z.unknown(),
  file: 'text/csv',
})
export const invoiceFormat = contract({
  route: 'GET /api/formats/invoice',
  summary: 'The schema of the data for an invoice.',
  access: 'public',
  answer: z.unknown(),
})

const changed = z.strictObject({
  id: z.uuid(),
  number: z.string(),
  status,
  /** What it adds, with taxes; it waits for a signature unless it is settled. */
  totalCents: z.int(),
})
export const makeChange = contract({
  route: 'POST /api/jobs/:id/changes',
  summary:
    'Change what was agreed for some points, as the home turned out to be. Without a new price and under the branch’s minutes it is settled by the note; anything else waits for a signature.',
  access: 'crew',
  params: idParam,
  body: z.object({
    solutions: z.array(solutionId).min(1).max(20),
    reason: z.string().trim().min(3, 'Say in a few words what was found.').max(500),
  }),
  answer: changed,
})
export const readAgreed = contract({
  route: 'GET /api/jobs/:id/agreed',
  summary: 'What is agreed for a job now, with all that its sum follows from; null before anything was signed.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({ agreed: quoteContentSchema.nullable() }),
})
export const signChange = contract({
  route: 'POST /api/quotes/:id/sign',
  summary: 'The customer signs a change on the crew’s glass.',
  access: 'crew',
  params: idParam,
  body: z.object({
    totalCents: z.int(),
    signer: z.string().trim().min(2, 'Write the name of whoever signs.').max(80),
    strokes: strokesSchema,
  }),
  answer: changed,
})

const token = z.object({ token: z.string().min(20).max(100) })
const offer = z.strictObject({
  company: z.string(),
  branch: z.string(),
  home: z.string(),
  customer: z.string(),
  number: z.string(),
  kind: z.enum(['quote', 'change']),
  status,
  expired: z.boolean(),
  validUntil: z.iso.date(),
  signer: z.string().nullable(),
  decidedAt: instant.nullable(),
  locale: z.string(),
  schemeId: z.enum(['na120', 'iec230']),
  content: quoteContentSchema,
  ticks: ticksSchema.nullable(),
})
export type Offer = z.infer<typeof offer>
export const readOffer = contract({
  route: 'GET /api/offers/:token',
  summary: 'An offer as its customer sees it. The link is the key; an old, altered or unknown one finds nothing.',
  access: 'public',
  params: token,
  answer: offer,
})
export const acceptOffer = contract({
  route: 'POST /api/offers/:token/accept',
  summary: 'Sign an offer, with what of it is taken and the sum that was seen.',
  access: 'public',
  params: token,
  body: z.object({
    ticks: ticksSchema,
    totalCents: z.int(),
    signer: z.string().trim().min(2, 'Write the name of whoever signs.').max(80),
    strokes: strokesSchema,
  }),
  answer: z.strictObject({ status, number: z.string(), totalCents: z.int() }),
})
export const declineOffer = contract({
  route: 'POST /api/offers/:token/decline',
  summary: 'Decline an offer, and say why if one wants to.',
  access: 'public',
  params: token,
  body: z.object({ reason: z.string().trim().max(500) }),
  answer: z.strictObject({ status }),
})
export const offerPaper = contract({
  route: 'GET /api/offers/:token/paper',
  summary: 'The same offer as a paper (PDF).',
  access: 'public',
  params: token,
  file: 'application/pdf',
})
