// Words that docs/glossary.md has retired are written nowhere any more: not on screens, not in code, not in guides.
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import ts from 'typescript'
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

/** Words of one supply that a sentence takes from the table (core/units/trade-words.ts), never by itself. */
const tradeWord = /(?<![\w{.-])(?<!\{[aA]n? )(breakers?|panels?|grounds?|travelers?|strappers?|[34]-way|hots|gfci|rcd|mcbs?)(?![\w}-])/i
/** Not said to people of one supply: formats, the API's own reference, the demo, practice boxes of one scheme each. */
const others =
  /\/(testing|practice|protocol|format|golden)\/|\.test\.ts$|trade-words\.ts$|\.schema\.ts$|core\/testing\/|database\/|core\/chance/

function* literalsOf(code) {
  const source = ts.createSourceFile('x.ts', code, ts.ScriptTarget.Latest, true)
  const found = []
  const visit = (node) => {
    const isText =
      ts.isStringLiteral(node) ||
      ts.isNoSubstitutionTemplateLiteral(node) ||
      ts.isTemplateHead(node) ||
      ts.isTemplateMiddle(node) ||
      ts.isTemplateTail(node)
    if (isText && !ts.isImportDeclaration(node.parent) && !ts.isExportDeclaration(node.parent)) found.push(node.text)
    ts.forEachChild(node, visit)
  }
  visit(source)
  yield* found
}
/** What stands between the tags of a template and in its plain attributes, and the literals of its expressions. */
function* textsOf(template) {
  const words = /\b(label|help|title|description|placeholder|aria-label|hint|alt|spoken)="([^"]*)"/
  for (const [, said] of template.matchAll(/>([^<>]+)</g)) yield said.replace(/\{\{[\s\S]*?\}\}/g, ' ')
  for (const [, , said] of template.matchAll(new RegExp(` ${words.source}`, 'g'))) yield said
  for (const [, , code] of template.matchAll(/(\{\{|[:@][\w-]+="|v-[\w-]+=")([\s\S]*?)(\}\}|")/g)) yield* literalsOf(`(${code})`)
}

/** @returns sentences that say a word of one supply by themselves */
export function bareTradeWords() {
  const found = []
  for (const folder of ['core', 'app', 'server'])
    for (const path of filesIn(join(root, folder))) {
      const name = path.slice(root.length + 1)
      if (others.test(name) || !/\.(ts|vue)$/.test(name)) continue
      const text = readFileSync(path, 'utf8')
      const script = name.endsWith('.vue') ? (/<script setup[^>]*>([\s\S]*?)<\/script>/.exec(text)?.[1] ?? '') : text
      const template = name.endsWith('.vue') ? (/<template>([\s\S]*)<\/template>/.exec(text)?.[1] ?? '') : ''
      for (const said of [...literalsOf(script), ...textsOf(template)])
        // A word alone is a key, unless it stands in a template.
        if (tradeWord.test(said) && /\s/.test(said.trim())) found.push(`${name}: ${said.trim().replace(/\s+/g, ' ').slice(0, 90)}`)
    }
  return found
}
