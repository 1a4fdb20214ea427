import { z } from 'zod'
import { schemeIds } from '../units'
import { letter } from '../units/letter'
import { commandEnvelopeSchema, streamKinds, type Outcome, type StreamEvent } from '../stream'
import { contract } from './contract'
import { done } from './common'

export const submitCommand = contract({
  route: 'POST /api/commands',
  summary:
    'Give one command to a job or a site. Answers with the stored outcome, accepted or refused; the same id again gives the same answer.',
  access: 'crew',
  body: commandEnvelopeSchema,
  answer: z.custom<Outcome>(),
})
/** What became of one of several commands: decided, or no command that could be decided. */
const severalAnswer = z.union([
  z.strictObject({ outcome: z.custom<Outcome>() }),
  z.strictObject({ problem: z.strictObject({ status: z.int(), code: z.string(), message: z.string() }) }),
])
export const submitSeveral = contract({
  route: 'POST /api/commands/several',
  summary:
    'Give several commands, one after the other, as they waited on a device. Answers each in order; it stops at what the server cannot do just now, and what is not answered was not tried.',
  access: 'crew',
  /** Each is looked at by itself: one that is none spoils no other. */
  body: z.strictObject({ commands: z.array(z.unknown()).min(1).max(50) }),
  answer: z.strictObject({ answers: z.array(severalAnswer) }),
})
export type SeveralAnswer = z.infer<typeof severalAnswer>
export const readEvents = contract({
  route: 'GET /api/events',
  summary: 'Events of a stream after a seq: for a client that missed some.',
  access: 'crew',
  query: z.object({ stream: z.enum(streamKinds), streamId: z.uuid(), after: z.coerce.number<string | number>().int().min(0) }),
  answer: z.strictObject({ events: z.array(z.custom<StreamEvent>()) }),
})

/** What changed, for those who may see it. Stream entries carry events; the others say which list to fetch again. */
export type FeedTopic =
  | 'site'
  | 'job'
  | 'jobs'
  | 'people'
  | 'settings'
  | 'catalogue'
  | 'instruments'
  | 'sales'
  | 'stock'
  | 'messages'
  | 'requests'
  | 'presence'
  | 'links'
  /** Words or pictures of a job are gone: what is kept of it is thrown away. */
  | 'erased'
  /** Somebody’s logins changed: for the server itself. */
  | 'sessions'
/** One change, as the live feed sends it. */
export interface FeedMessage {
  seq: number
  topic: FeedTopic
  branchId: string | null
  streamId: string | null
  events: StreamEvent[]
}
export const liveFeed = contract({
  route: 'GET /api/feed',
  summary: 'Live feed: one stream of server-sent events for everything the viewer may see; resumes after Last-Event-ID.',
  access: 'crew',
  query: z.object({ from: z.coerce.number<string | number>().int().min(0).optional() }),
  file: 'text/event-stream',
})

export const isUp = contract({
  route: 'GET /api/health',
  summary: 'Is the server up? Says nothing of what it needs.',
  access: 'public',
  answer: done,
})
export const isReady = contract({
  route: 'GET /api/ready',
  summary: 'Can the server do its work: database, its tables and their version, key, disk? 503 with what is wrong.',
  access: 'public',
  answer: z.strictObject({ ok: z.literal(true), version: z.string(), freeBytes: z.number() }),
})
export const jobFormat = contract({
  route: 'GET /api/formats/job',
  summary: 'JSON Schema of the open job format.',
  access: 'public',
  answer: z.unknown(),
})
export const apiFormat = contract({
  route: 'GET /api/formats/api',
  summary: 'This reference, as OpenAPI 3.1.',
  access: 'public',
  answer: z.unknown(),
})
const label = z.object({ letter, cable: z.string().max(40), word: z.string().max(30) })
export const printLabels = contract({
  route: 'POST /api/labels',
  summary: 'A sheet of flags to cut out and fold around the conductors of a box, as PDF. Nothing is stored.',
  access: 'crew',
  body: z.object({ box: z.string().min(1).max(60), schemeId: z.enum(schemeIds), labels: z.array(label).min(1).max(30) }),
  file: 'application/pdf',
})
