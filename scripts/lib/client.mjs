// Programs of the database's client.
import { needProgram, spawn, Stop } from './host.mjs'

/**
 * Starts one; what is secret goes by the environment, so that no list of processes shows it.
 * @returns the process, and its end: what it said of errors; Stop where it ended with one
 */
export function clientOf(program, args, env) {
  const child = spawn(needProgram(program, ['mariadb-client']), args, { env: { ...process.env, ...env }, stdio: ['pipe', 'pipe', 'pipe'] })
  let said = ''
  child.stderr.setEncoding('utf8').on('data', (text) => (said += text))
  const ended = new Promise((resolve, reject) => {
    child.on('error', reject)
    child.on('close', (code) => (code === 0 ? resolve(said) : reject(new Stop(`${program} ended with ${code}: ${said.trim()}`))))
  })
  // Whoever waits for the streams first hears of it as well.
  ended.catch(() => undefined)
  return { child, ended }
}
