// Modules of core as a worker of the app has them: bundled. Read file by file, every call to another module would be looked up.
import { rmSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'

/** What `contents` exports, by paths from the root; `name` is of the bundle's file while there is one. */
export async function bundled(name, contents) {
  const bundle = new URL(`.${name}.${process.pid}.bundle.mjs`, import.meta.url)
  await build({
    stdin: { contents, resolveDir: fileURLToPath(new URL('../..', import.meta.url)) },
    bundle: true,
    format: 'esm',
    platform: 'node',
    outfile: fileURLToPath(bundle),
    logLevel: 'error',
  })
  const core = await import(bundle.href)
  rmSync(bundle)
  return core
}
