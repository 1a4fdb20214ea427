import type { PersonRole, StreamKind } from './words'

/** Who does something, as far as decisions need to know. */
export interface Actor {
  personId: string
  name: string
  initials: string
  role: PersonRole
  /** Holds the licence the local code asks for. */
  licensed: boolean
  /** Whose device it was done on with this person's own PIN, when it was not their own. */
  via?: { personId: string; initials: string }
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
