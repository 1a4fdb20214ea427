import { v7 as uuid } from 'uuid'
import type { CommandEnvelope, Outcome, Refusal, StreamKind } from '../../core/stream'
import { mayKeep } from '~/stores/outbox'
import type { Given } from './useJobRecord'

/** Ids made on this page for things the server has not acknowledged yet. */
const fresh = new Set<string>()
export function newId(): string {
  const id = uuid()
  fresh.add(id)
  return id
}

type Command = { type: string } & Record<string, unknown>
/**
 * Commands that were sent and not answered, by what they say. Said again they go out as they were, so nothing happens twice:
 * until a later one is accepted. Then the record shows what became of them, and the same words are a new act: who went home,
 * came back to close a breaker and goes home once more has to be heard twice.
 */
const unanswered = new Map<string, { envelope: CommandEnvelope; failed: boolean }>()
function accepted(streamId: string) {
  for (const [other, { envelope, failed }] of unanswered) if (failed && envelope.streamId === streamId) unanswered.delete(other)
}

export interface Sent {
  given: Given
  /** What the server stored, when it answered. */
  outcome: Outcome | null
}
export interface Seen {
  /** Newest seq of the site's record this client has seen. */
  siteSeq: number
  /** Newest seq of the job's record, or null. */
  jobSeq: number | null
  /** Where it was done, in words, for the list of what waits. */
  where: string
}

const refused = (refusal: Refusal): Sent => ({ given: { ok: false, refusal }, outcome: null })
const catchingUp: Refusal = {
  code: 'catchingUp',
  reasons: ['What was entered without network is still being sent.'],
  toYes: ['Wait a moment, then ask again.'],
}

/**
 * Sends one command and turns whatever comes back into a refusal or a yes. Without network, facts and own work are kept
 * on this device and go out later in order; what asks for leave waits for a connection.
 */
export async function sendCommand(
  stream: StreamKind,
  streamId: string,
  seen: Seen,
  command: { type: string },
  onBehalf?: { personId: string; pin: string },
): Promise<Sent> {
  const outbox = useOutbox()
  const feed = useFeed()
  await outbox.ensureLoaded()
  // A second click makes new ids for the same new thing: they say nothing about what is meant.
  const says = JSON.stringify([stream, streamId, command, onBehalf?.personId], (_, value: unknown) =>
    typeof value === 'string' && fresh.has(value) ? '' : value,
  )
  const envelope: CommandEnvelope = {
    ...(unanswered.get(says)?.envelope ?? {
      id: uuid(),
      stream,
      streamId,
      at: new Date().toISOString(),
      basedOnSeq: seen.siteSeq,
      jobSeq: seen.jobSeq,
      heldMs: 0,
      command: command as Command,
    }),
    ...(onBehalf ? { onBehalf } : {}),
  }
  const made = Object.values(command).filter((value): value is string => typeof value === 'string' && fresh.has(value))
  const keep = async (): Promise<Sent> => {
    unanswered.delete(says)
    const refusal = await outbox.keep(envelope, seen.where, made)
    if (!refusal) for (const id of made) fresh.delete(id)
    return refusal ? refused(refusal) : { given: { ok: true, refusal: null, kept: true }, outcome: null }
  }
  const keepAndSend = async (): Promise<Sent> => {
    const sent = await keep()
    if (feed.status === 'live') void outbox.flush()
    return sent
  }
  const keepable = !onBehalf && mayKeep(stream, command.type)
  // What waits goes first: nothing overtakes it.
  if (outbox.pending.length > 0) {
    if (keepable) return keepAndSend()
    await outbox.flush()
    if (outbox.pending.length > 0 && feed.status === 'live') return refused(catchingUp)
  } else if (keepable && (feed.status === 'lost' || !navigator.onLine)) return keep()
  unanswered.set(says, { envelope, failed: false })
  const answer = await api('POST /api/commands', { body: envelope })
  if (!answer.ok) {
    const { status, code, message } = answer.problem
    // It may have arrived all the same: it is kept under its id, and the server knows an id it has answered.
    const unknown = status === 0 || status >= 500
    if (unknown && keepable) return keepAndSend()
    // Asked, and nobody knows what came of it: nothing is touched on the strength of this device until it has asked.
    if (unknown && stream === 'site') outbox.setUnheard(streamId, true)
    if (unknown) unanswered.set(says, { envelope, failed: true })
    else unanswered.delete(says)
    if (status === 401) useSession().expired = true
    const reasons = [message, ...faultsOf(answer.problem).map((fault) => fault.problem)]
    return refused({ code, reasons, toYes: [] })
  }
  unanswered.delete(says)
  for (const id of made) fresh.delete(id)
  const outcome = answer.value
  if (outcome.status === 'accepted') accepted(streamId)
  return { given: outcome.status === 'accepted' ? { ok: true, refusal: null } : { ok: false, refusal: outcome.refusal }, outcome }
}
