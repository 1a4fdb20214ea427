// A part of core as one loadable module, for scripts.
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'
import { root, stateDir } from '../../lib/host.mjs'

/** @param {string} entry path under the project, such as core/wiring/index.ts */
export async function loadCore(entry) {
  const folder = join(stateDir, 'wiring')
  mkdirSync(folder, { recursive: true })
  const outfile = join(folder, `${entry.replace(/\W+/g, '-')}.mjs`)
  await build({ entryPoints: [join(root, entry)], bundle: true, format: 'esm', platform: 'node', outfile, logLevel: 'silent' })
  return import(pathToFileURL(outfile).href)
}
