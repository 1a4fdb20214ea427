// npm run link: reaches the devices of a home from a laptop in its network.
//   --office=URL  --code=CODE (the first time)  --folder=DIR  --name=NAME  --stand-ins (a simulated home)
import { needPackages, root, spawn } from './lib/host.mjs'

needPackages()
const { bundleLink } = await import('./lib/link.mjs')
const child = spawn(process.execPath, [await bundleLink(), ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' })
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill(signal))
child.on('exit', (status) => process.exit(status ?? 0))
