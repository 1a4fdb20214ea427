import { setTimeout as pause } from 'node:timers/promises'
import { ConnectionError, type Sequelize, type Transaction } from 'sequelize'

/**
 * What stood in the way, by MariaDB's error numbers and the driver's codes.
 * - deadlock: two transactions waited on each other, or a cluster could not agree: nothing was stored, begin anew.
 * - locked: another one holds a row for long.
 * - away: no connection, or it was lost, or the node behind it has no majority.
 * - readOnly, full: it is there and takes no changes.
 */
export type Trouble = 'deadlock' | 'locked' | 'away' | 'readOnly' | 'full'
const byNumber: Record<number, Trouble> = {
  ...{ 1213: 'deadlock', 1205: 'locked' },
  // A node without majority; the server stops; the query or its connection was ended from outside; an error at the commit.
  ...{ 1047: 'away', 1053: 'away', 1317: 'away', 1927: 'away', 1180: 'away' },
  ...{ 1290: 'readOnly', 1836: 'readOnly' },
  ...{ 1021: 'full', 1114: 'full' },
}
const byCode: Record<string, Trouble> = {
  ...{ ER_LOCK_DEADLOCK: 'deadlock', ER_LOCK_WAIT_TIMEOUT: 'locked' },
  ...{ PROTOCOL_CONNECTION_LOST: 'away', ECONNRESET: 'away', EPIPE: 'away', ETIMEDOUT: 'away' },
}
export function troubleOf(error: unknown): Trouble | null {
  if (error instanceof ConnectionError) return 'away'
  if (error instanceof DatabaseTrouble) return error.is
  const said = (error as { parent?: SaidByDriver } | null)?.parent ?? (isOfDriver(error) ? error : null)
  if (!said) return null
  return byNumber[said.errno ?? 0] ?? byCode[said.code ?? ''] ?? (said.fatal ? 'away' : null)
}
interface SaidByDriver {
  code?: string
  errno?: number
  fatal?: boolean
}
/** A connection that is lost between two statements comes as the driver says it, with nothing of Sequelize around it. */
const isOfDriver = (error: unknown): error is SaidByDriver => error instanceof Error && ('fatal' in error || 'sqlState' in error)

/** A transaction that could not be done for a reason that passes: whoever asked may ask the same again. */
export class DatabaseTrouble extends Error {
  constructor(
    readonly is: Trouble,
    /** The connection was lost at the commit: it was stored, or it was not. */
    readonly outcomeUnknown: boolean,
    cause: unknown,
  ) {
    super(`${outcomeUnknown ? 'outcome unknown' : is}: ${(cause as Error).message}`, { cause })
  }
}

/** A node that answers and cannot work is not asked again over this connection: behind the same address may be another one. */
function dropConnection(transaction: Transaction): void {
  const { connection } = transaction as unknown as { connection?: { destroy?: () => void } }
  connection?.destroy?.()
}

/** Ends a transaction that came to nothing, together with its connection where that is of no use any more. */
export async function takeBack(transaction: Transaction, trouble: Trouble | null): Promise<void> {
  if (trouble === 'away') dropConnection(transaction)
  await transaction.rollback().catch(() => undefined)
}

/** Tries of a transaction that others stand in the way of. Two nodes that both write need many. */
const mostTries: Partial<Record<Trouble, number>> = { deadlock: 12, locked: 2 }
/** Counts what stood in the way of one piece of work, and waits a little longer each time, each for another while. */
export class Patience {
  private readonly tries = new Map<Trouble, number>()
  constructor(private readonly most: Partial<Record<Trouble, number>> = mostTries) {}
  /** @returns whether it is worth another try, after a while */
  async again(trouble: Trouble): Promise<boolean> {
    const tried = (this.tries.get(trouble) ?? 0) + 1
    this.tries.set(trouble, tried)
    if (tried >= (this.most[trouble] ?? 1)) return false
    await pause(Math.random() * Math.min(400, 5 * 2 ** tried))
    return true
  }
}

/**
 * Does a transaction, and does it anew where another one stood in its way: nothing of it was stored then. What was lost at the
 * commit is not repeated here: only whoever knows its id can.
 * @param work is done once for each try: what it does beside the database it must be able to do again
 * @throws DatabaseTrouble, or what the work throws
 */
export async function transact<T>(sequelize: Sequelize, work: (transaction: Transaction) => Promise<T>): Promise<T> {
  const patience = new Patience()
  for (;;) {
    let committing = false
    let transaction: Transaction | null = null
    try {
      transaction = await sequelize.transaction()
      const value = await work(transaction)
      committing = true
      await transaction.commit()
      return value
    } catch (error) {
      const trouble = troubleOf(error)
      // At the commit it has ended already, its connection too.
      if (transaction && !committing) await takeBack(transaction, trouble)
      if (trouble === null) throw error
      if (!(await patience.again(trouble))) throw new DatabaseTrouble(trouble, committing && trouble === 'away', error)
    }
  }
}
