// npm run dev: the same database, with a server that rebuilds as files change.
import { existsSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { freePort, needPackages, root, say, spawn, stateDir } from './lib/host.mjs'
import { startMariadb } from './lib/mariadb.mjs'

needPackages()
const kindFile = join(stateDir, 'live', 'kind')
const first = !existsSync(kindFile)
const database = await startMariadb('live', { fresh: first })
const port = await freePort(4620)
const nuxt = spawn(
  process.execPath,
  [join(root, 'node_modules', 'nuxt', 'bin', 'nuxt.mjs'), 'dev', '--host', '127.0.0.1', '--port', String(port)],
  { cwd: root, stdio: 'inherit', env: { ...process.env, ...database.env, CIRCUITRY_SEED: first ? 'demo' : '' } },
)
if (first) writeFileSync(kindFile, 'demo')
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => nuxt.kill(signal))
nuxt.once('exit', async (code) => {
  await database.stop()
  say('Stopped.')
  process.exit(code ?? 0)
})
