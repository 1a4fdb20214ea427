import { z } from 'zod'

/** The two kinds of stream. Energy belongs to the site; work belongs to the job. */
export const streamKinds = ['site', 'job'] as const
export type StreamKind = (typeof streamKinds)[number]

export const idSchema = z.uuid().describe('uuid v7 made by the client: identity, never order')

/** Roles a person can have in a company. */
export const personRoles = ['dispatcher', 'lead', 'technician', 'apprentice'] as const
export type PersonRole = (typeof personRoles)[number]

/** Who does something, as far as decisions need to know. */
export interface Actor {
  personId: string
  name: string
  initials: string
  role: PersonRole
  /** Holds the licence the local code asks for. */
  licensed: boolean
}

/**
 * A stored fact about a stream. `seq` is given by the server, starts at 1 and has no gaps in a stream.
 * `at` is what the client's clock said: shown, never used to order anything.
 */
export interface StreamEvent<T extends string = string, P = unknown> {
  id: string
  stream: StreamKind
  streamId: string
  seq: number
  commandId: string
  version: number
  at: string
  receivedAt: string
  actor: Actor
  type: T
  payload: P
}

export type EventDraft<T extends string = string, P = unknown> = { type: T; payload: P }

/** What a client sends: one intention, identified, with the state it was made in. */
export const commandEnvelopeSchema = z.object({
  id: idSchema,
  stream: z.enum(streamKinds),
  streamId: idSchema,
  /** What the client's clock said when the person did it. */
  at: z.iso.datetime({ offset: true }),
  /** The newest energy seq of the site this client had seen when the person did it. */
  basedOnSeq: z.int().min(0).default(0),
  command: z.looseObject({ type: z.string().min(1).max(60) }),
})
export type CommandEnvelope = z.infer<typeof commandEnvelopeSchema>

/** Why something may not be done, in sentences a technician understands, and the shortest way to yes. */
export interface Refusal {
  code: string
  reasons: string[]
  toYes: string[]
}

export type Outcome =
  | { status: 'accepted'; commandId: string; stream: StreamKind; streamId: string; seq: number; eventTypes: string[] }
  | { status: 'refused'; commandId: string; stream: StreamKind; streamId: string; seq: number; refusal: Refusal }

/** What a decision returns: the events to store, or a refusal. */
export type Decision<E> = { ok: true; events: E[] } | { ok: false; refusal: Refusal }

export function accept<E>(...events: E[]): Decision<E> {
  return { ok: true, events }
}

export function refuse(code: string, reasons: string | string[], toYes: string | string[] = []): { ok: false; refusal: Refusal } {
  return { ok: false, refusal: { code, reasons: [reasons].flat(), toYes: [toYes].flat() } }
}

/** A command without its type: what the event it leads to says. */
export function payloadOf<T extends { type: string }>(command: T): Omit<T, 'type'> {
  const { type: _type, ...payload } = command
  return payload
}
