// npm run node-door -- --port=3400 [--host=10.0.0.1] [--database=3306] [--user=health] [--least=2]: the door of this machine's node of a cluster.
import { run, say, Stop } from './lib/host.mjs'
import { healthUser } from './lib/galera.mjs'
import { asking, openDoor } from './lib/node-door.mjs'

run(async () => {
  const given = Object.fromEntries(process.argv.slice(2).map((option) => option.replace(/^--/, '').split('=')))
  const unknown = Object.keys(given).filter((name) => !['port', 'host', 'database', 'user', 'least'].includes(name))
  const least = Number(given.least ?? 1)
  if (unknown.length || !Number(given.port) || !(least >= 1))
    throw new Stop('npm run node-door -- --port=3400 [--host=10.0.0.1] [--database=3306] [--user=health] [--least=2]')
  const ask = asking({ port: Number(given.database ?? 3306), user: given.user ?? healthUser })
  const door = await openDoor({ host: given.host, port: Number(given.port), ask, least })
  say(`The door of the node at ${given.database ?? 3306} is at ${given.host ?? '127.0.0.1'}:${door.port}.`)
})
