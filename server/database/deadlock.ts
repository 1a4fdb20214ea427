/** Two transactions waited on each other, and this one was ended for it. */
export const isDeadlock = (error: unknown): boolean =>
  ['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT'].includes((error as { parent?: { code?: string } }).parent?.code ?? '')

/** Does a transaction, and does it again where another one stood in its way: nothing of it was stored. */
export async function untilFree<T>(work: () => Promise<T>, tries = 4): Promise<T> {
  for (let tried = 1; ; tried++)
    try {
      return await work()
    } catch (error) {
      if (!isDeadlock(error) || tried === tries) throw error
    }
}
