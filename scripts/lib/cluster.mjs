// Everything of a cluster on this one machine: three nodes with their doors, the proxy, three servers behind it.
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { clusterIn, healthUser } from './galera.mjs'
import { endProcess, freePort, isOurs, needProgram, root, runNode, say, sleep, spawn, spawnSync, stateDir, Stop } from './host.mjs'
import { asking, openDoor } from './node-door.mjs'
import { startServer } from './server.mjs'

/**
 * The proxy’s file as the guide has it, with the addresses of this machine.
 * @param nodes [{ sql, door }] ports
 * @param servers ports
 */
export function proxyFile(example, { writer, front, nodes, servers }) {
  let file = example.replace('bind 127.0.0.1:3406', `bind 127.0.0.1:${writer}`).replace('bind 127.0.0.1:4620', `bind 127.0.0.1:${front}`)
  for (const [index, { sql, door }] of nodes.entries())
    file = file.replace(`10.0.0.${index + 1}:3306 port 3400`, `127.0.0.1:${sql} port ${door}`)
  for (const [index, port] of servers.entries()) file = file.replace(`10.0.0.${index + 11}:4621`, `127.0.0.1:${port}`)
  const left = /10\.0\.0\.\d+/.exec(file)
  if (left) throw new Error(`${left[0]} is still an address of the example.`)
  return file
}

export async function startProxy(folder, file) {
  const haproxy = needProgram('haproxy', ['haproxy'])
  const path = join(folder, 'haproxy.cfg')
  writeFileSync(path, file)
  const checked = spawnSync(haproxy, ['-c', '-q', '-f', path], { encoding: 'utf8' })
  if (checked.status !== 0) throw new Stop(`The proxy does not take its file:\n${checked.stderr}`)
  const child = spawn(haproxy, ['-db', '-q', '-f', path], { stdio: 'ignore', detached: true })
  let ended = false
  child.once('exit', () => (ended = true))
  await sleep(300)
  if (ended) throw new Stop('The proxy ended while starting.')
  return { pid: child.pid, child, stop: () => endProcess(child.pid, 2000) }
}

/**
 * @param name folder below the state folder
 * @param seed 'demo', 'years' or '' for a new one
 * @param front port for people
 * @param env for the servers
 */
export function makeCluster({ name, fresh = false, seed = '', front, env = {}, quiet = false }) {
  const folder = join(stateDir, name)
  const leftFile = join(folder, 'processes.json')
  const errorLog = join(folder, 'server-errors.log')
  const cluster = { folder, errorLog, url: '', database: {}, ports: { servers: [] }, nodes: null, doors: [], proxy: null, servers: [] }
  /** For the next start, should this one be killed: each process, and what it is known by. */
  const left = []
  const note = (pid, words) => {
    left.push({ pid, words })
    writeFileSync(leftFile, JSON.stringify(left))
  }

  cluster.startProxy = async () => {
    const { ports } = cluster
    const file = proxyFile(readFileSync(join(root, 'docs', 'examples', 'haproxy.cfg'), 'utf8'), {
      ...ports,
      nodes: cluster.nodes.ports.map((sql, index) => ({ sql, door: cluster.doors[index].port })),
    })
    cluster.proxy = await startProxy(folder, file)
    note(cluster.proxy.pid, join(folder, 'haproxy.cfg'))
  }
  cluster.startServer = async (index) => {
    cluster.servers[index] = await startServer({
      ...{ port: cluster.ports.servers[index], quiet, errorLog },
      env: {
        ...{ CIRCUITRY_ERASURES: join(folder, `erasures-${index}.jsonl`), ...env, ...cluster.database },
        ...{ CIRCUITRY_MIGRATE: 'no', CIRCUITRY_SEED: '', CIRCUITRY_TRUSTED_PROXIES: '1' },
      },
    })
    note(cluster.servers[index].pid, join('server', 'index.mjs'))
  }
  /** Tables, and what the first one of all brings along: a step before the servers, as at every upgrade. */
  cluster.migrate = async () => {
    const { status, stderr } = await runNode([join(root, '.output', 'server', 'index.mjs')], {
      ...{ ...env, ...cluster.database, NODE_ENV: 'production', CIRCUITRY_MIGRATE: 'only', CIRCUITRY_SEED: seed },
      ...{ NITRO_HOST: '127.0.0.1', NITRO_PORT: String(await freePort()) },
    })
    if (status !== 0) throw new Stop(`The tables could not be made.\n${stderr}`)
  }
  cluster.start = async () => {
    for (const { pid, words } of existsSync(leftFile) ? JSON.parse(readFileSync(leftFile, 'utf8')) : [])
      if (isOurs(pid, words)) await endProcess(pid, 2000)
    if (fresh) {
      // What an earlier one left running goes before its data.
      await clusterIn(folder)
      rmSync(folder, { recursive: true, force: true })
    }
    say('Starting three nodes of the database …')
    const nodes = (cluster.nodes = await clusterIn(folder))
    await nodes.start()
    for (const port of nodes.ports) cluster.doors.push(await openDoor({ port: 0, ask: asking({ port, user: healthUser }) }))
    cluster.ports = { writer: await freePort(), front: await freePort(front), servers: [] }
    while (cluster.ports.servers.length < nodes.all.length) cluster.ports.servers.push(await freePort())
    cluster.database = nodes.env(cluster.ports.writer)
    await cluster.startProxy()
    say(seed ? 'Tables and demo data …' : 'Tables …')
    await cluster.migrate()
    say('Starting three servers …')
    await Promise.all(nodes.all.map(cluster.startServer))
    cluster.url = `http://127.0.0.1:${cluster.ports.front}`
    for (let waited = 0; !(await fetch(`${cluster.url}/api/health`).catch(() => null))?.ok; waited += 100) {
      if (waited > 20_000) throw new Stop('The proxy lets nobody through.')
      await sleep(100)
    }
  }
  cluster.stop = async () => {
    await Promise.all(cluster.servers.map((server) => server?.stop()))
    await cluster.proxy?.stop()
    for (const door of cluster.doors) await door.close()
    await cluster.nodes?.stop()
  }
  return cluster
}
