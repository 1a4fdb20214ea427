// The link: a process of its own, bundled from its sources when it is started.
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { endProcess, root, spawn, stateDir, Stop } from './host.mjs'

/** @returns {Promise<string>} the file to run */
export async function bundleLink() {
  const { build } = await import('esbuild')
  const outfile = join(stateDir, 'link', 'main.mjs')
  mkdirSync(join(stateDir, 'link'), { recursive: true })
  const entryPoints = [join(root, 'link', 'main.ts')]
  // The library of the standard stays as it is installed; it looks for its own files.
  await build({ entryPoints, outfile, bundle: true, format: 'esm', platform: 'node', packages: 'external', logLevel: 'error' })
  return outfile
}

/** Starts a link with stand-ins and waits until it asks for work. @param options of link/main.ts, without the dashes */
export async function startStandIns({ office, folder, code = null }) {
  const args = [await bundleLink(), '--stand-ins', `--office=${office}`, `--folder=${folder}`, ...(code ? [`--code=${code}`] : [])]
  const child = spawn(process.execPath, args, { cwd: root, stdio: ['ignore', 'pipe', 'inherit'], detached: true })
  await new Promise((resolve, reject) => {
    child.stdout.on('data', (text) => String(text).includes('The link is ready') && resolve())
    child.once('exit', () => reject(new Stop('The link ended while starting; see above.')))
  })
  return { pid: child.pid, child, stop: () => endProcess(child.pid, 10_000) }
}
