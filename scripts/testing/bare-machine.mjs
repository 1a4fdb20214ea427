// A fresh machine has no packages yet when npm start and npm test are loaded: they may import Node and each other only.
import { readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { root } from '../lib/host.mjs'

/** @returns every package that one of these scripts needs before it has installed any, and where */
export function packagesNeededAtLoad(entries = ['scripts/start.mjs', 'scripts/test.mjs', 'scripts/dev.mjs', 'scripts/cluster.mjs']) {
  const found = []
  const seen = new Set()
  const follow = (file) => {
    if (seen.has(file)) return
    seen.add(file)
    const code = readFileSync(join(root, file), 'utf8')
    for (const [, from] of code.matchAll(/^(?:import|export)\s(?:[\w\s{},*]*?\sfrom\s)?['"]([^'"]+)['"]/gm))
      if (from.startsWith('.')) follow(join(dirname(file), from))
      else if (!from.startsWith('node:')) found.push(`${file}: ${from}`)
  }
  entries.forEach(follow)
  return found
}
