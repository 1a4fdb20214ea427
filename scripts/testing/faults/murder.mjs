// kill -9, and gone when this returns.
import { isAlive, sleep } from '../../lib/host.mjs'

export async function murder(pid) {
  process.kill(pid, 'SIGKILL')
  for (let waited = 0; isAlive(pid); waited += 50) {
    if (waited >= 20_000) throw new Error(`${pid} does not go`)
    await sleep(50)
  }
}
