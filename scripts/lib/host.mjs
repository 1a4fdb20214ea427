// What the scripts need from the machine: programs, packages, ports, processes. Plain Node, nothing installed.
import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { dirname, join, relative } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..')
export const stateDir = join(root, '.circuitry')

export const say = (text) => process.stdout.write(`${text}\n`)

export class Stop extends Error {}

/** A whole script: what stops it is a sentence; what is a fault of ours shows where. */
export const run = (main) =>
  main().catch((error) => {
    // What the program itself refuses is a sentence for whoever typed the command.
    const said = error instanceof Stop || (typeof error.code === 'string' && typeof error.status === 'number')
    process.stderr.write(`\n${said ? error.message : error.stack}\n`)
    process.exit(1)
  })

export function find(program) {
  const places = [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/local/sbin', '/sbin', '/usr/bin']
  return places.map((place) => join(place, program)).find((path) => existsSync(path)) ?? null
}

/** Installs Debian packages when a program is missing and we may; else says the exact command. */
export function needProgram(program, packages) {
  if (find(program)) return find(program)
  const command = `apt-get update && apt-get install -y --no-install-recommends ${packages.join(' ')}`
  const root = process.getuid?.() === 0
  const sudo = !root && find('sudo') && spawnSync('sudo', ['-n', 'true']).status === 0
  if (!find('apt-get') || (!root && !sudo))
    throw new Stop(`${program} is missing. Install it, then start again:\n\n  sudo sh -c "${command}"\n`)
  say(`Installing ${packages.join(', ')} …`)
  const shell = root ? ['sh', ['-c', command]] : ['sudo', ['sh', '-c', command]]
  const result = spawnSync(shell[0], shell[1], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  })
  if (result.status !== 0 || !find(program)) throw new Stop(`Could not install ${packages.join(', ')}. Try:\n\n  sudo sh -c "${command}"\n`)
  return find(program)
}

const hashOf = (...parts) => parts.reduce((hash, part) => hash.update(part), createHash('sha256')).digest('hex')

/** npm ci when node_modules is missing or does not fit the lock file. */
export function needPackages() {
  const wanted = hashOf(readFileSync(join(root, 'package-lock.json')), process.version)
  const mark = join(root, 'node_modules', '.circuitry-lock')
  if (existsSync(mark) && readFileSync(mark, 'utf8') === wanted) return
  say('Installing npm packages …')
  const result = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  if (result.status !== 0) throw new Stop('npm ci failed; see above.')
  writeFileSync(mark, wanted)
}

function* files(path) {
  if (!existsSync(path)) return
  if (statSync(path).isFile()) yield path
  else for (const entry of readdirSync(path).sort()) yield* files(join(path, entry))
}

function sourcesHash() {
  const paths = ['app', 'core', 'server', 'public', 'nuxt.config.ts', 'package-lock.json', 'tsconfig.json'].flatMap((name) => [
    ...files(join(root, name)),
  ])
  const hash = createHash('sha256')
  for (const path of paths.filter((name) => !/\.test\.ts$/.test(name))) hash.update(relative(root, path)).update(readFileSync(path))
  return hash.digest('hex')
}

/** Runs one program of Node beside others. @returns {Promise<{ status: number | null, stdout: string, stderr: string }>} */
export const runNode = (args, env = {}) =>
  new Promise((resolve) => {
    const child = spawn(process.execPath, args, { cwd: root, env: { ...process.env, ...env }, stdio: ['ignore', 'pipe', 'pipe'] })
    const said = { stdout: '', stderr: '' }
    for (const stream of ['stdout', 'stderr']) child[stream].setEncoding('utf8').on('data', (text) => (said[stream] += text))
    child.on('error', (error) => resolve({ status: 1, ...said, stderr: `${said.stderr}\n${error.message}` }))
    child.on('close', (status) => resolve({ status, ...said }))
  })

/** Builds when the sources changed since the last build. */
export async function needBuild() {
  // With what was built: it goes where that goes.
  const mark = join(root, '.output', 'built-from')
  const wanted = sourcesHash()
  if (existsSync(join(root, '.output', 'server', 'index.mjs')) && existsSync(mark) && readFileSync(mark, 'utf8') === wanted) return
  say('Building; this takes a minute or two …')
  const nuxt = join(root, 'node_modules', 'nuxt', 'bin', 'nuxt.mjs')
  const result = await runNode([nuxt, 'build', '--logLevel=silent'], { NODE_OPTIONS: '--max-old-space-size=4096' })
  if (result.status !== 0) throw new Stop(`The build failed.\n${result.stdout}\n${result.stderr}`)
  writeFileSync(mark, wanted)
}

export function portIsFree(port) {
  return new Promise((resolve) => {
    const server = createServer()
    server.once('error', () => resolve(false))
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)))
  })
}

/** The wanted port, or any free one on loopback. */
export async function freePort(wanted = 0) {
  if (wanted && (await portIsFree(wanted))) return wanted
  return new Promise((resolve, reject) => {
    const server = createServer()
    server.once('error', reject)
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address()
      server.close(() => resolve(port))
    })
  })
}

export const isAlive = (pid) => {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return error.code === 'EPERM'
  }
}

/** Is this process alive and still the program we started? Numbers of ended processes are given out again. */
export function isOurs(pid, words) {
  if (!pid || !isAlive(pid)) return false
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(words)
  } catch {
    const listed = spawnSync('ps', ['-p', String(pid), '-o', 'command='], { encoding: 'utf8' })
    return (listed.stdout ?? '').includes(words)
  }
}

export const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

/** Asks a process to end and waits; kills it when it does not. */
export async function endProcess(pid, patienceMs = 20_000) {
  if (!isAlive(pid)) return
  process.kill(pid, 'SIGTERM')
  for (let waited = 0; waited < patienceMs && isAlive(pid); waited += 100) await sleep(100)
  if (isAlive(pid)) process.kill(pid, 'SIGKILL')
}

export { execFileSync, spawn, spawnSync }
