// The built web server as a child process.
import { openSync } from 'node:fs'
import { join } from 'node:path'
import { endProcess, root, sleep, spawn, Stop } from './host.mjs'

/**
 * Starts the built server and waits until it answers.
 * @param errorLog file that takes what it says about errors, instead of this terminal
 */
export async function startServer({ port, env, quiet = false, errorLog = null }) {
  const child = spawn(process.execPath, [join(root, '.output', 'server', 'index.mjs')], {
    cwd: root,
    env: {
      ...process.env,
      ...env,
      NODE_ENV: 'production',
      HOST: '127.0.0.1',
      NITRO_HOST: '127.0.0.1',
      PORT: String(port),
      NITRO_PORT: String(port),
    },
    stdio: ['ignore', quiet ? 'ignore' : 'inherit', errorLog ? openSync(errorLog, 'a') : 'inherit'],
    detached: true,
  })
  let ended = false
  child.once('exit', () => (ended = true))
  const url = `http://127.0.0.1:${port}`
  for (let waited = 0; ; waited += 200) {
    if (ended) throw new Stop('The server ended while starting; see above.')
    if (waited > 120_000) throw new Stop('The server did not answer within two minutes.')
    if (
      await fetch(`${url}/api/ready`).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      break
    await sleep(200)
  }
  return { url, pid: child.pid, child, stop: () => endProcess(child.pid, 10_000) }
}
