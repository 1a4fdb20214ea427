import { expect } from '@playwright/test'

/** Ends the server of this worker as its owner would, and starts it again on its data; resolves once it answers. */
export async function restartServer(): Promise<void> {
  const door = process.env.CIRCUITRY_TEST_RESTART
  if (!door) throw new Error('CIRCUITRY_TEST_RESTART is missing: the address that restarts the server; npm test sets it.')
  const answer = await fetch(`${door}/${process.env.TEST_PARALLEL_INDEX ?? 0}`, { method: 'POST' })
  expect(answer.status, await answer.text()).toBe(200)
}
