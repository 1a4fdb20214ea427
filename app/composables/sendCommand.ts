import { v7 as uuid } from 'uuid'
import type { CommandEnvelope, Outcome, Refusal, StreamKind } from '../../core/stream'
import { submitCommand, AwaitingOutcome, type Line, type Reply } from '../../core/stream/client'
import type { Submission } from './useJobRecord'

/** Ids made on this page for things the server has not acknowledged yet. */
const fresh = new Set<string>()
export function newId(): string {
  const id = uuid()
  fresh.add(id)
  return id
}

type Command = { type: string } & Record<string, unknown>
const awaitingOutcome = new AwaitingOutcome<CommandEnvelope>()

export interface Sent {
  submission: Submission
  /** What the server stored, when it answered. */
  outcome: Outcome | null
}
export interface Seen {
  /** Newest seq of the site's record this client has seen. */
  basedOnSeq: number
  /** Newest seq of the job's record, or null. */
  jobSeq: number | null
  /** Where it was done, in words, for the list of what waits. */
  where: string
  /** Why the record as it is here already forbids it; nothing is kept then. */
  forbidden?(envelope: CommandEnvelope): Refusal | null
}

const notHere: Refusal = {
  code: 'notStored',
  reasons: ['Part of the program has not loaded on this device yet. This was NOT stored.'],
  // A browser does not ask again for a part that it failed to get, before the page is loaded anew.
  toYes: ['Go where there is a connection, load this page anew, then enter it again.'],
}
const refused = (refusal: Refusal): Sent => ({ submission: { ok: false, refusal }, outcome: null })
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
  const rooms = await loadRooms().catch(() => null)
  if (!rooms) return refused(notHere)
  const { commandLabel, streams } = rooms
  // A second click makes new ids for the same new thing: they say nothing about what is meant.
  const says = JSON.stringify([stream, streamId, command, onBehalf?.personId], (_, value: unknown) =>
    typeof value === 'string' && fresh.has(value) ? '' : value,
  )
  const envelope: CommandEnvelope = {
    ...(awaitingOutcome.find(says) ?? {
      id: uuid(),
      stream,
      streamId,
      at: new Date().toISOString(),
      basedOnSeq: seen.basedOnSeq,
      jobSeq: seen.jobSeq,
      heldMs: 0,
      command: command as Command,
    }),
    ...(onBehalf ? { onBehalf } : {}),
  }
  const made = Object.values(command).filter((value): value is string => typeof value === 'string' && fresh.has(value))
  let kept = false
  const fulfilled = () => {
    awaitingOutcome.forget(says)
    for (const id of made) fresh.delete(id)
  }
  async function send(): Promise<Reply> {
    awaitingOutcome.goesOut(says, envelope)
    const answer = await api('POST /api/commands', { body: envelope })
    if (answer.ok) {
      fulfilled()
      if (answer.value.status === 'accepted') awaitingOutcome.accepted(streamId)
      return { is: 'outcome', outcome: answer.value }
    }
    const { status, code, message } = answer.problem
    if (status === 401) useSession().expired = true
    const refusal = { code, reasons: [message, ...faultsOf(answer.problem).map((fault) => fault.problem)], toYes: [] }
    // It may have arrived all the same.
    if (status === 0 || status >= 500) {
      awaitingOutcome.failed(says, envelope)
      return { is: 'unreachable', refusal }
    }
    awaitingOutcome.forget(says)
    return { is: 'turnedAway', refusal }
  }
  async function keep(): Promise<Refusal | null> {
    const refusal = seen.forbidden?.(envelope) ?? (await outbox.keep(envelope, commandLabel(stream, envelope.command), seen.where, made))
    if (!refusal) fulfilled()
    kept = true
    return refusal
  }
  const line = (): Line => ({
    waiting: outbox.pending.length,
    connected: feed.status !== 'lost' && navigator.onLine,
    live: feed.status === 'live',
  })
  const steps = submitCommand(!onBehalf && streams[stream].commands.get(command.type)?.rules.queues === true, line)
  let step = steps.next()
  while (!step.done) {
    switch (step.value.do) {
      case 'send':
        step = steps.next(await send())
        break
      case 'keep':
        step = steps.next(await keep())
        break
      case 'sendQueued': {
        const sending = outbox.flush()
        // What was kept just now goes out by itself; a question waits for what is before it.
        if (!kept) await sending
        step = steps.next()
        break
      }
      case 'outcomeUnknown':
        if (stream === 'site') outbox.setOutcomeUnknown(streamId, true)
        step = steps.next()
    }
  }
  const submission = step.value
  if (submission.is === 'queued') return { submission: { ok: true, refusal: null, kept: true }, outcome: null }
  if (submission.is === 'refused') return refused(submission.refusal)
  const { outcome } = submission
  return { submission: outcome.status === 'accepted' ? { ok: true, refusal: null } : { ok: false, refusal: outcome.refusal }, outcome }
}
