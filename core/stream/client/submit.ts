import type { Outcome, Refusal } from '../envelope'

/** How the line is, and what waits on this device. */
export interface Line {
  /** Kept entries that are not sent yet. */
  waiting: number
  /** False: known to be without network. */
  connected: boolean
  /** The live connection stands. */
  live: boolean
}
/** What comes back for a command. Unreachable: nobody knows whether it arrived. */
export type Reply = { is: 'outcome'; outcome: Outcome } | { is: 'turnedAway'; refusal: Refusal } | { is: 'unreachable'; refusal: Refusal }
/**
 * What giving a command asks of its device. `keep` is answered by why it is not kept, or null: there is no room, or the record as
 * it is here already forbids it. A refusal that is known here is said here: whoever is told “kept” goes on and does it.
 */
export type SubmitStep = { do: 'keep' } | { do: 'sendQueued' } | { do: 'send' } | { do: 'outcomeUnknown' }

export type Submission =
  | { is: 'outcome'; outcome: Outcome }
  /** On this device; the server has not seen it yet. */
  | { is: 'queued' }
  | { is: 'refused'; refusal: Refusal; awaitingOutcome: boolean }

const catchingUp: Refusal = {
  code: 'catchingUp',
  reasons: ['What was entered without network is still being sent.'],
  toYes: ['Wait a moment, then ask again.'],
}

/**
 * Gives one command: sends it, or keeps it where it may wait. Nothing overtakes what waits. What was sent and not answered may
 * have arrived: it is kept under its id where that is allowed, for the server knows an id it has answered; else nothing is
 * touched on the strength of this device until it has asked (`outcomeUnknown`).
 * @param queues whether this command may wait here
 */
export function* submitCommand(queues: boolean, line: () => Line): Generator<SubmitStep, Submission, Reply | Refusal | null | undefined> {
  function* keep(sent: boolean): Generator<SubmitStep, Submission, Reply | Refusal | null | undefined> {
    const refusal = (yield { do: 'keep' }) as Refusal | null
    if (!refusal) return { is: 'queued' }
    if (sent) yield { do: 'outcomeUnknown' }
    return { is: 'refused', refusal, awaitingOutcome: sent }
  }
  function* keepAndSend(sent: boolean): Generator<SubmitStep, Submission, Reply | Refusal | null | undefined> {
    const submission = yield* keep(sent)
    if (line().live) yield { do: 'sendQueued' }
    return submission
  }
  if (line().waiting > 0) {
    if (queues) return yield* keepAndSend(false)
    yield { do: 'sendQueued' }
    if (line().waiting > 0 && line().live) return { is: 'refused', refusal: catchingUp, awaitingOutcome: false }
  } else if (queues && !line().connected) return yield* keep(false)
  const reply = (yield { do: 'send' }) as Reply
  if (reply.is === 'outcome') return reply
  if (reply.is === 'turnedAway') return { is: 'refused', refusal: reply.refusal, awaitingOutcome: false }
  if (queues) return yield* keepAndSend(true)
  yield { do: 'outcomeUnknown' }
  return { is: 'refused', refusal: reply.refusal, awaitingOutcome: true }
}
