// npm run cluster: three nodes of the database, three servers and a proxy before both, on this one machine, for trying it out.
//   --fresh  throw the stored data away first     --empty  without demo data     --port=N  another port     Ctrl-C ends all
import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { isOurs, needBuild, needPackages, run, say, stateDir, Stop } from './lib/host.mjs'

run(async () => {
  const options = process.argv.slice(2)
  const unknown = options.filter((option) => !/^--(fresh|empty|port=\d+)$/.test(option))
  if (unknown.length) throw new Stop(`Unknown option: ${unknown.join(' ')}. Known: --fresh --empty --port=N`)
  const owner = join(stateDir, 'cluster.json')
  mkdirSync(stateDir, { recursive: true })
  if (existsSync(owner) && isOurs(JSON.parse(readFileSync(owner, 'utf8')).pid, 'cluster.mjs'))
    throw new Stop('A cluster runs already in another window. Stop it there with Ctrl-C.')
  writeFileSync(owner, JSON.stringify({ pid: process.pid }))
  let cluster = null
  let stopping = null
  const stop = () =>
    (stopping ??= (async () => {
      await cluster?.stop()
      rmSync(owner, { force: true })
    })())
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.on(signal, () => {
      say('\nStopping …')
      void stop().then(() => process.exit(0))
    })
  needPackages()
  await needBuild()
  const { makeCluster } = await import('./lib/cluster.mjs')
  const kindFile = join(stateDir, 'cluster', 'kind')
  const known = !options.includes('--fresh') && existsSync(kindFile) ? readFileSync(kindFile, 'utf8') : null
  const kind = known ?? (options.includes('--empty') ? 'empty' : 'demo')
  const setUpCode = randomBytes(6).toString('hex')
  cluster = makeCluster({
    name: 'cluster',
    fresh: known === null,
    seed: kind === 'demo' ? 'demo' : '',
    front: Number(options.find((option) => option.startsWith('--port='))?.slice(7) ?? 4620),
    env: { CIRCUITRY_SETUP_CODE: setUpCode },
    quiet: true,
  })
  try {
    await cluster.start()
  } catch (error) {
    await stop()
    throw error
  }
  writeFileSync(kindFile, kind)
  const { needed } = await (await fetch(`${cluster.url}/api/setup`)).json()
  say(`\n  Circuitry runs at ${cluster.url}, on three servers and three nodes.\n`)
  if (needed) say(`  There is no company yet: set one up at ${cluster.url}/setup#${setUpCode}\n`)
  for (const n of cluster.nodes.all)
    say(
      `  node ${n + 1}: process ${cluster.nodes.pid(n)}, port ${cluster.nodes.ports[n]}; server ${n + 1}: process ${cluster.servers[n].pid}, port ${cluster.ports.servers[n]}`,
    )
  say(`  proxy: process ${cluster.proxy.pid}; whoever is written to: port ${cluster.ports.writer}\n\n  Ctrl-C ends all of it.\n`)
})
