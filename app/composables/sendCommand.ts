import { v7 as uuid } from 'uuid'
import type { Outcome, StreamKind } from '../../core/stream'
import type { Given } from './useJobRecord'

/** Ids made on this page for things the server has not acknowledged yet. */
const fresh = new Set<string>()
export function newId(): string {
  const id = uuid()
  fresh.add(id)
  return id
}

type Command = { type: string } & Record<string, unknown>
interface Envelope {
  id: string
  stream: StreamKind
  streamId: string
  at: string
  basedOnSeq: number
  command: Command
}
/** Commands that were sent and not answered, by what they say. Said again they go out as they were, so nothing happens twice. */
const unanswered = new Map<string, Envelope>()

export interface Sent {
  given: Given
  /** What the server stored, when it answered. */
  outcome: Outcome | null
}

/** Sends one command and turns whatever comes back into a refusal or a yes. */
export async function sendCommand(stream: StreamKind, streamId: string, basedOnSeq: number, command: { type: string }): Promise<Sent> {
  // A second click makes new ids for the same new thing: they say nothing about what is meant.
  const says = JSON.stringify([stream, streamId, command], (_, value: unknown) =>
    typeof value === 'string' && fresh.has(value) ? '' : value,
  )
  const envelope = unanswered.get(says) ?? {
    id: uuid(),
    stream,
    streamId,
    at: new Date().toISOString(),
    basedOnSeq,
    command: command as Command,
  }
  unanswered.set(says, envelope)
  const answer = await api<Outcome>('/api/commands', { body: envelope })
  if (!answer.ok) {
    const { status, code, message } = answer.problem
    if (status !== 0) unanswered.delete(says)
    const reasons = [message, ...faultsOf(answer.problem).map((fault) => fault.problem)]
    return { given: { ok: false, refusal: { code, reasons, toYes: [] } }, outcome: null }
  }
  unanswered.delete(says)
  for (const value of Object.values(envelope.command)) if (typeof value === 'string') fresh.delete(value)
  const outcome = answer.value
  return { given: outcome.status === 'accepted' ? { ok: true, refusal: null } : { ok: false, refusal: outcome.refusal }, outcome }
}
