// A test with all that it uses as one module: read file by file, Jest looks every call to another module up, and what computes
// for a long time takes ten times as long. Packages stay as they are installed.
import { buildSync } from 'esbuild'

// In Jest's context each look at a global costs as much as a call: what computes names these once. (Not Date: tests set clocks.)
const names =
  'undefined NaN Infinity Math Map Set WeakMap Object Array Number String Boolean Symbol JSON Error BigInt Float64Array Uint8Array Int32Array'.split(
    ' ',
  )
const banner = `const { ${names.map((name) => `${name}: ${name}`).join(', ')} } = globalThis;`

let turn = 0
export default {
  process(_source, path) {
    const { outputFiles } = buildSync({
      entryPoints: [path],
      bundle: true,
      format: 'esm',
      platform: 'node',
      target: 'es2022',
      packages: 'external',
      sourcemap: 'inline',
      banner: { js: banner },
      write: false,
      logLevel: 'silent',
    })
    return { code: outputFiles[0].text }
  },
  // What a test uses may have changed though the test has not: nothing is kept.
  getCacheKey: () => `${process.pid} ${Date.now()} ${turn++}`,
}
