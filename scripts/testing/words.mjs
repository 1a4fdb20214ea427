// Words that docs/glossary.md has retired are written nowhere any more: not on screens, not in code, not in guides.
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { root } from '../lib/host.mjs'

/** The words of the first column of the table of retired words; several of one row stand between dots. */
export function retiredWords(glossary = readFileSync(join(root, 'docs/glossary.md'), 'utf8')) {
  const table = glossary.slice(glossary.indexOf('## Retired words'))
  return [...table.matchAll(/^\| (?!Not |---)(.+?) \| .+ \|$/gm)].flatMap(([, cell]) => cell.split(' · '))
}

function* filesIn(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name)
    if (name === 'golden' || name === 'node_modules') continue
    if (statSync(path).isDirectory()) yield* filesIn(path)
    else if (/\.(ts|vue|mjs|md)$/.test(name)) yield path
  }
}

/** @returns each place where a retired word stands */
export function retiredWordsFound(words = retiredWords()) {
  const signs = words.map((word) => [
    word,
    new RegExp(`(?<![\\w-])${word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\w-])`, /^[A-Z]|[a-z][A-Z]/.test(word) ? '' : 'i'),
  ])
  const found = []
  for (const folder of ['core', 'app', 'server', 'e2e', 'docs/guides'])
    for (const path of filesIn(join(root, folder))) {
      const text = readFileSync(path, 'utf8')
      for (const [word, sign] of signs) if (sign.test(text)) found.push(`${path.slice(root.length + 1)}: ${word}`)
    }
  return found
}
