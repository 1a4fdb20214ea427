// The simulator of core/site as one loadable module, with one rule edited away if wanted.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'
import { root, stateDir, Stop } from '../../lib/host.mjs'

/**
 * @param {{ name: string, edits: { file: string, find: string, put: string }[] } | null} mutant
 * @returns the module's exports
 */
export async function loadSimulator(mutant) {
  const folder = join(stateDir, 'simulator')
  mkdirSync(folder, { recursive: true })
  const left = new Set(mutant?.edits ?? [])
  const result = await build({
    entryPoints: [join(root, 'core/site/testing/index.ts')],
    bundle: true,
    format: 'esm',
    platform: 'node',
    write: false,
    logLevel: 'silent',
    plugins: [
      {
        name: 'mutant',
        setup(one) {
          one.onLoad({ filter: /core\/(site|stream)\/[a-z/-]+\.ts$/ }, ({ path }) => {
            let contents = readFileSync(path, 'utf8')
            for (const edit of mutant?.edits ?? []) {
              if (!path.endsWith(edit.file.startsWith('core/') ? edit.file : `core/site/${edit.file}`)) continue
              // A rule that is no longer written like this would be a mutant that tests nothing.
              const times = contents.split(edit.find).length - 1
              if (times !== 1) throw new Error(`“${mutant.name}”: ${times} places in ${edit.file} say: ${edit.find}`)
              contents = contents.replace(edit.find, () => edit.put)
              left.delete(edit)
            }
            return { contents, loader: 'ts' }
          })
        },
      },
    ],
  }).catch((error) => {
    throw new Stop(error.errors?.map((one) => one.text).join('\n') ?? error.message)
  })
  if (left.size) throw new Stop(`“${mutant.name}” changes a file the simulator does not use.`)
  const file = join(folder, `${mutant ? mutant.name.replace(/[^a-zA-Z0-9]+/g, '-') : 'as-it-is'}.mjs`)
  writeFileSync(file, result.outputFiles[0].text)
  return import(`${pathToFileURL(file).href}?${Date.now()}`)
}
