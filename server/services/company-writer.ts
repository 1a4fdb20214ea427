import { ConnectionError, UniqueConstraintError } from 'sequelize'
import type { Outcome } from '../../core/stream'
import { database } from '../database'
import { DatabaseTrouble, Patience, takeBack, troubleOf } from '../database/transact'
import { sawCommand } from '../metrics'
import { ApiError } from './errors'
import type { Asked } from './asked'
import { isAlone, publish, writeGroup, type Written } from './write-command'

interface Waiting {
  asked: Asked
  done(answer: { outcome: Outcome; testerFailed: boolean }): void
  failed(error: unknown): void
}
/** So many commands share one transaction. More would make the first of them wait for the last. */
const groupLimit = 32

/** Commands of each company that wait while others of it are being written. */
const queues = new Map<string, Waiting[]>()

/**
 * Writes a command. Those of one company go one group after the other, in the order they came: what arrives while one group is
 * being written is the next, so that a company pays for one commit and not for a hundred. Resolves after the commit.
 */
export function submit(asked: Asked): Promise<{ outcome: Outcome; testerFailed: boolean }> {
  const { companyId } = asked.viewer
  return new Promise((done, failed) => {
    const waiting = { asked, done, failed }
    const queue = queues.get(companyId)
    if (queue) queue.push(waiting)
    else {
      queues.set(companyId, [waiting])
      void drain(companyId)
    }
  })
}

async function drain(companyId: string): Promise<void> {
  const queue = queues.get(companyId)!
  while (queue.length > 0) {
    const length = queue.findIndex(({ asked }) => isAlone(asked.envelope))
    const together = length === 0 ? 1 : Math.min(groupLimit, length === -1 ? queue.length : length)
    const group = queue.splice(0, together)
    // What waited on a device may have arrived before.
    const failure = await write(
      companyId,
      group,
      group.some(({ asked }) => asked.envelope.heldMs > 0),
    )
    // Nobody can be asked: nobody waits longer to hear the same.
    if (failure?.error instanceof ConnectionError) for (const one of [...group, ...queue.splice(0)]) one.failed(failure.error)
    // One of them, a deadlock or a lost connection ended them all: each is asked again by itself.
    else if (failure && group.length > 1) for (const one of group) await writeAgain(companyId, one)
    else if (failure) await writeAgain(companyId, group[0]!, failure)
  }
  queues.delete(companyId)
}

/**
 * Writes a group. What a client sends once is not looked up: its outcome cannot be stored twice, and a group that tries ends.
 * @returns what ended it, or null
 */
async function write(companyId: string, group: Waiting[], lookUp: boolean): Promise<{ error: unknown } | null> {
  const transaction = await database()
    .sequelize.transaction()
    .catch((error: unknown) => ({ error }))
  if ('error' in transaction) return transaction
  let written: Written
  try {
    written = await writeGroup(
      group.map(({ asked }) => asked),
      transaction,
      { lookUp, commits: true },
    )
  } catch (error) {
    await takeBack(transaction, troubleOf(error))
    return { error }
  }
  // It is on the disk; nobody waits until the connection is free again.
  void transaction.commit().catch(() => undefined)
  publish(companyId, [written])
  for (const [index, { done, failed }] of group.entries()) {
    const answer = written.answers[index]!
    if (answer instanceof ApiError) failed(answer)
    else {
      sawCommand(answer.status)
      done({ outcome: answer, testerFailed: written.testerFailed })
    }
  }
  return null
}

/** Somebody else stored the same serial or the same command id a moment earlier: so often it is decided once more on what is there. */
const mostTaken = 3

/** Whatever became of it before, also at a commit that nobody heard the end of: its id tells. */
async function writeAgain(companyId: string, one: Waiting, before?: { error: unknown }): Promise<void> {
  const patience = new Patience({ deadlock: 12, locked: 2, away: 3 })
  let taken = 0
  let failure = before ?? (await write(companyId, [one], true))
  while (failure) {
    const { error } = failure
    const trouble = troubleOf(error)
    const again =
      error instanceof UniqueConstraintError
        ? ++taken < mostTaken
        : trouble !== null && !(error instanceof ConnectionError) && (await patience.again(trouble))
    if (!again) {
      if (trouble !== null) sawCommand('failed')
      one.failed(
        error instanceof UniqueConstraintError
          ? new ApiError(409, 'idTaken', 'Something else already has this id. Nothing was stored; try again.')
          : trouble === null || error instanceof ConnectionError
            ? error
            : new DatabaseTrouble(trouble, trouble === 'away', error),
      )
      return
    }
    failure = await write(companyId, [one], true)
  }
}
