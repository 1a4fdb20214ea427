import { z } from 'zod'
import { letterPurposes, messagePurposes } from '../dispatch/promise/letters'
import { prepareIds } from '../dispatch/promise/prepare'
import { visitKinds } from '../job/words'
import { branchQuery, done, idParam, instant } from './common'
import { contract } from './contract'
import { plannedVisit } from './dispatch'

export const channel = z.enum(['sms', 'mail'])
const messageState = z.enum(['waiting', 'sent', 'failed'])
export const messageLine = z.strictObject({
  id: z.uuid(),
  jobId: z.uuid(),
  /** null: not from a visit. */
  visitId: z.uuid().nullable(),
  siteName: z.string(),
  purpose: z.enum(messagePurposes),
  channel,
  customer: z.string(),
  recipient: z.string(),
  subject: z.string(),
  body: z.string(),
  madeBy: z.string(),
  madeAt: instant,
  state: messageState,
  sentAt: instant.nullable(),
  /** What the service said. */
  answer: z.string(),
})
/** What a customer is written. */
export const letter = z.string().trim().min(10, 'Write a sentence.').max(1000, 'Write at most 1,000 characters.')
export type MessageLine = z.infer<typeof messageLine>

export const readContact = contract({
  route: 'GET /api/visits/:id/contact',
  summary: 'How the customer of a visit is reached, with the link to their page, what they have ticked and what they were sent.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({
    customer: z.string(),
    phone: z.string(),
    email: z.string(),
    company: z.string(),
    telephone: z.string(),
    crew: z.array(z.string()),
    kind: z.enum(visitKinds),
    windowFrom: instant,
    windowTo: instant,
    /** Path of the page on this server. */
    link: z.string(),
    prepared: z.array(z.strictObject({ id: z.enum(prepareIds), what: z.string(), at: instant.nullable() })),
    offered: z.int(),
    chosenAt: instant.nullable(),
    messages: z.array(messageLine),
  }),
})

export const changeContact = contract({
  route: 'PATCH /api/visits/:id/contact',
  summary: 'How the customer of a visit is reached: a number or a mailbox that was learnt, or has changed.',
  access: 'crew',
  params: idParam,
  body: z.object({
    phone: z.string().trim().max(40),
    email: z.union([z.literal(''), z.email('This is no mailbox.')]),
  }),
  answer: done,
})

export const readWay = contract({
  route: 'GET /api/visits/:id/way',
  summary: 'The way to a visit for who asks: from where they are by their last tap, else from the store, after what they have in hand.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({
    /** Where it begins; null: nobody knows where they are. */
    from: z.string().nullable(),
    leaveAt: instant,
    /** null where no road leads there. */
    arriveAt: instant.nullable(),
    /** So early, or earlier, on four of five days. */
    fourAt: instant.nullable(),
    metres: z.number(),
    legs: z.array(
      z.strictObject({
        name: z.string(),
        kind: z.enum(['street', 'road', 'bridge', 'ferry']),
        metres: z.number(),
        from: instant,
        to: instant,
      }),
    ),
  }),
})
export type Way = z.infer<typeof readWay.answer>

const span = { windowFrom: instant, windowTo: instant }
const offeredTime = z.object({
  id: z.uuid(),
  /** The visit as it would be moved; then visits beside it that give way unnoticed. */
  visits: z.array(plannedVisit).min(1).max(12),
})
export const sendMessage = contract({
  route: 'POST /api/visits/:id/messages',
  summary: 'Write to the customer of a visit: its crew or the office. With another window it is promised in the same breath.',
  access: 'crew',
  params: idParam,
  body: z.object({
    /** The same id again is the same message. */
    id: z.uuid(),
    purpose: z.enum(letterPurposes),
    channel,
    body: letter,
    /** Promised instead. */
    window: z.object(span).nullable().default(null),
    /** Times to choose from, on the customer’s page; they take the place of those offered before. */
    offers: z.array(offeredTime).max(12).default([]),
  }),
  answer: messageLine,
})
export const retryMessage = contract({
  route: 'POST /api/messages/:id/retry',
  summary: 'Send a message that failed once more, to another number or mailbox if one is given.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  body: z.object({ recipient: z.string().trim().min(3).max(200) }),
  answer: messageLine,
})
export const listMessages = contract({
  route: 'GET /api/messages',
  summary: 'What was written to customers, the newest first.',
  access: ['dispatcher', 'lead'],
  query: branchQuery.extend({ state: messageState.optional() }),
  answer: z.strictObject({ messages: z.array(messageLine) }),
})

const token = z.object({ token: z.string().min(20).max(100) })
const visitPage = z.strictObject({
  company: z.string(),
  branch: z.string(),
  telephone: z.string(),
  home: z.string(),
  kind: z.enum(visitKinds),
  status: z.enum(['planned', 'onTheWay', 'onSite', 'done', 'cancelled']),
  crew: z.array(z.string()),
  ...span,
  expectedAt: instant.nullable(),
  zone: z.string(),
  locale: z.string(),
  schemeId: z.enum(['na120', 'iec230']),
  prepare: z.array(z.strictObject({ id: z.enum(prepareIds), what: z.string(), why: z.string(), done: z.boolean() })),
  offers: z.array(z.strictObject({ id: z.uuid(), ...span })),
  chosen: z.boolean(),
  /** What loses power, about when. */
  offs: z.array(
    z.strictObject({
      name: z.string(),
      lights: z.array(z.string()),
      /** Somebody has said that it must not simply go off. */
      asksFirst: z.boolean(),
      from: instant,
      minutes: z.number(),
    }),
  ),
})
export type VisitPage = z.infer<typeof visitPage>
export const readVisitPage = contract({
  route: 'GET /api/visit-pages/:token',
  summary: 'A visit as its customer sees it. The link is the key; it ends three days after the visit.',
  access: 'public',
  params: token,
  answer: visitPage,
})
export const tickPrepared = contract({
  route: 'POST /api/visit-pages/:token/prepared',
  summary: 'What of the preparations is done, as the customer says.',
  access: 'public',
  params: token,
  body: z.object({ done: z.array(z.enum(prepareIds)).max(prepareIds.length) }),
  answer: done,
})
export const chooseTime = contract({
  route: 'POST /api/visit-pages/:token/time',
  summary: 'Choose one of the offered times: the visit moves there, or nothing changes and it says why.',
  access: 'public',
  params: token,
  body: z.object({ offer: z.uuid() }),
  answer: done,
})

export const readVisitFacts = contract({
  route: 'GET /api/visits/:id/facts',
  summary:
    'What the record of a home cannot know of a visit: what the customer has ready, dusk, the pace of the company, until when there is time.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({
    ready: z.array(z.enum(prepareIds)),
    licensed: z.boolean(),
    /** People who open boxes: an apprentice works beside somebody. */
    people: z.int().min(1),
    /** How finished visits of the branch went against the usual minutes. */
    pace: z.number().positive(),
    duskAt: instant.nullable(),
    /** They have to leave then, and why: the next promise, or the end of the day. */
    until: instant,
    untilWhy: z.strictObject({ is: z.enum(['next', 'day']), siteName: z.string().nullable() }),
  }),
})
export type VisitFacts = z.infer<typeof readVisitFacts.answer>

export const remind = contract({
  route: 'POST /api/messages/reminders',
  summary: 'Remind every customer who is expected on a day and was not reminded yet. The same again reminds nobody twice.',
  access: ['dispatcher', 'lead'],
  body: z.object({ branchId: z.uuid(), date: z.iso.date(), checkOnly: z.boolean().default(false) }),
  answer: z.strictObject({
    /** Reminded now, or with `checkOnly` would be. */
    reminded: z.int(),
    already: z.int(),
    /** Homes whose customer nobody can write to. */
    unreachable: z.array(z.string()),
  }),
})
