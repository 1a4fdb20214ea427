import { z } from 'zod'
import { awayKinds } from '../dispatch/away'
import { branchQuery, idParam, instant } from './common'
import { contract } from './contract'

const requestLine = z.strictObject({
  id: z.uuid(),
  personId: z.uuid(),
  kind: z.enum([...awayKinds, 'swap']),
  startsAt: instant,
  endsAt: instant,
  visitId: z.uuid().nullable(),
  jobId: z.uuid().nullable(),
  siteName: z.string().nullable(),
  otherId: z.uuid().nullable(),
  note: z.string(),
  state: z.enum(['asked', 'approved', 'declined', 'withdrawn']),
  askedAt: instant,
  answer: z.string(),
  /** What its person is booked for at that time. */
  booked: z.array(z.strictObject({ siteName: z.string(), startsAt: instant })),
})
export type RequestLine = z.infer<typeof requestLine>

export const listRequests = contract({
  route: 'GET /api/requests',
  summary: 'Time off and visits to hand over: one’s own, or for the office those of a branch; of the last 30 days and to come.',
  access: 'crew',
  query: branchQuery,
  answer: z.strictObject({ requests: z.array(requestLine) }),
})
export const askFor = contract({
  route: 'POST /api/requests',
  summary: 'Ask for time off, say that one is ill, or ask that somebody else takes a visit. Whoever is ill asks nobody.',
  access: 'crew',
  body: z.discriminatedUnion('kind', [
    z.object({
      id: z.uuid(),
      kind: z.enum(awayKinds),
      /** Somebody else, for the office. */
      personId: z.uuid().nullable().default(null),
      startsAt: instant,
      endsAt: instant,
      note: z.string().trim().max(500).default(''),
    }),
    z.object({
      id: z.uuid(),
      kind: z.literal('swap'),
      visitId: z.uuid(),
      otherId: z.uuid().nullable().default(null),
      note: z.string().trim().max(500).default(''),
    }),
  ]),
  answer: requestLine,
})
export const decideRequest = contract({
  route: 'POST /api/requests/:id/decision',
  summary: 'Approve or decline what was asked. A visit that is handed over moves to its new person in the same breath, or nothing changes.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  body: z.object({
    approve: z.boolean(),
    /** Who takes the visit. */
    otherId: z.uuid().nullable().default(null),
    answer: z.string().trim().max(500).default(''),
  }),
  answer: requestLine,
})
export const withdrawRequest = contract({
  route: 'POST /api/requests/:id/withdraw',
  summary: 'Take back what one asked for, or time off that is not needed: its person or the office.',
  access: 'crew',
  params: idParam,
  body: z.strictObject({}),
  answer: requestLine,
})
export const importAway = contract({
  route: 'POST /api/people/:id/away',
  summary:
    'Read time off from a calendar (iCalendar, RFC 5545): each entry that is busy, repeats of a year. One’s own is asked for, the office’s is approved. Read again, it follows what was changed; a cancelled entry is withdrawn.',
  access: 'crew',
  params: idParam,
  body: z.object({ text: z.string().max(1_000_000) }),
  answer: z.strictObject({ added: z.int(), changed: z.int(), withdrawn: z.int(), left: z.int() }),
})

export const readCalendarLink = contract({
  route: 'GET /api/me/calendar',
  summary: 'The link under which one’s visits are read by a calendar program.',
  access: 'crew',
  answer: z.strictObject({ link: z.string() }),
})
export const renewCalendarLink = contract({
  route: 'POST /api/me/calendar',
  summary: 'A new link to one’s calendar: those before it open nothing any more.',
  access: 'crew',
  body: z.strictObject({}),
  answer: z.strictObject({ link: z.string() }),
})
export const readCalendar = contract({
  route: 'GET /api/calendars/:token',
  summary: 'The visits of a person from a month ago on, as iCalendar. The link is the key; it ends with the account.',
  access: 'public',
  params: z.object({ token: z.string().min(20).max(110) }),
  file: 'text/calendar',
})
