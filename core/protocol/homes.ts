import { z } from 'zod'
import { schemeIds } from '../units/scheme'
import { done, idParam, instant } from './common'
import { contract } from './contract'
import { channel, letter, messageLine } from './promises'

/** Six digits and more: four are guessed within a week, five wrong ones an hour. */
export const homePin = z
  .string()
  .regex(/^\d{6,12}$/, 'A PIN has six to twelve digits.')
  .refine((pin) => new Set(stepsOf(pin)).size > 1, 'This one is guessed first: not one digit only, and not up or down in a row.')
/** From each digit to the next: of 111111 nothing but 0, of 123456 nothing but 1. */
const stepsOf = (pin: string) => [...pin].slice(1).map((digit, index) => Number(digit) - Number(pin[index]))

const kept = z.strictObject({
  link: z.string(),
  until: instant,
  hasPin: z.boolean(),
  madeBy: z.string(),
  madeAt: instant,
  openedAt: instant.nullable(),
  /** When codes were shown last, and how often. */
  codesReadAt: instant.nullable(),
  codesRead: z.int(),
})
export type KeptHomePage = z.infer<typeof kept>
export const readHomeLink = contract({
  route: 'GET /api/jobs/:id/home-page',
  summary:
    'The page that a household keeps of its home: its link, until when, when it was opened, and who was sent it. Null: none was made, or it is over.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({
    page: kept.nullable(),
    to: z.strictObject({ customer: z.string(), phone: z.string(), email: z.string() }),
    company: z.string(),
    telephone: z.string(),
    sent: z.array(messageLine),
  }),
})
export const makeHomeLink = contract({
  route: 'POST /api/jobs/:id/home-page',
  summary:
    'Make the page of a home, or a new link in place of the one before, which opens nothing then. With a PIN, which the household chooses, the page shows the setup codes.',
  access: 'crew',
  params: idParam,
  body: z.object({ id: z.uuid(), months: z.int().min(1).max(24), pin: homePin.nullable() }),
  answer: z.strictObject({ page: kept }),
  leaves: { deed: 'homePage' },
})
export const sendHomeLink = contract({
  route: 'POST /api/jobs/:id/home-page/send',
  summary: 'Send the link to the page of a home by text or mail. Refused with the household’s PIN in it.',
  access: 'crew',
  params: idParam,
  body: z.object({
    /** The same id again is the same message. */
    id: z.uuid(),
    channel,
    body: letter,
  }),
  answer: messageLine,
})
export const endHomeLink = contract({
  route: 'POST /api/jobs/:id/home-page/end',
  summary: 'The page of a home is closed: its link opens nothing any more.',
  access: 'crew',
  params: idParam,
  body: z.strictObject({}),
  answer: done,
})
export const guestCardOf = contract({
  route: 'GET /api/jobs/:id/guest-card',
  summary: 'The card of a home for its guests, in large print: what hands do, and what each plate moves. No code, nothing of anybody’s.',
  access: 'crew',
  params: idParam,
  file: 'application/pdf',
})

const token = z.object({ token: z.string().min(20).max(200) })
const homePage = z.strictObject({
  company: z.string(),
  telephone: z.string(),
  home: z.string(),
  locale: z.string(),
  zone: z.string(),
  schemeId: z.enum(schemeIds),
  handedOverAt: instant.nullable(),
  until: instant,
  hasPin: z.boolean(),
  sections: z.array(
    z.strictObject({
      id: z.enum(['where', 'batteries', 'itself', 'without', 'wrong', 'leaving', 'open', 'agreed']),
      title: z.string(),
      lines: z.array(z.string()),
      numbered: z.boolean().optional(),
      table: z.strictObject({ heads: z.array(z.string()), rows: z.array(z.array(z.string())) }).optional(),
    }),
  ),
})
export type HomePage = z.infer<typeof homePage>
export const readHomePage = contract({
  route: 'GET /api/home-pages/:token',
  summary:
    'A home as its household keeps it: what is where, what it does by itself, what to do when something is wrong, how one leaves it.',
  access: 'public',
  params: token,
  answer: homePage,
})
export const readHomeFile = contract({
  route: 'GET /api/home-pages/:token/file',
  summary: 'The same as one file to keep (HTML, it loads nothing) or to print (PDF), or its guest card (PDF). None holds a code.',
  access: 'public',
  params: token,
  query: z.object({ as: z.enum(['html', 'pdf', 'card']) }),
  file: 'text/html or application/pdf',
})
const homeCode = z.strictObject({ name: z.string(), where: z.string(), serial: z.string(), code: z.string() })
export type HomeCode = z.infer<typeof homeCode>
export const readHomeCodes = contract({
  route: 'POST /api/home-pages/:token/codes',
  summary: 'The setup codes of a home, with the household’s PIN. Each reading is counted, and so is each wrong PIN.',
  access: 'public',
  params: token,
  body: z.object({ pin: z.string().trim().max(40) }),
  answer: z.strictObject({ codes: z.array(homeCode) }),
})
