import { existsSync } from 'node:fs'
import { createRequire } from 'node:module'
import { fileURLToPath } from 'node:url'
import { openSync, type Font } from 'fontkit'
import pdfmake from 'pdfmake'
import type { Content, CustomTableLayout, TDocumentDefinitions } from 'pdfmake/interfaces'
import { eachText } from '../../core/units/each-text'
import { inRegion, inTrade, type Region, type SchemeId } from '../../core/units'

/** What every printed paper of a company shares: fonts, page, footer, rules of tables. Laid out in a thread of its own: `server/workers/papers.ts`. */
function fontFile(weight: 400 | 700, part: 'latin' | 'latin-ext' = 'latin'): string {
  const name = `atkinson-hyperlegible-next-${part}-${weight}-normal.woff`
  // The build puts them beside its threads (nuxt.config.ts), which the server looks for from its own part: it runs where no packages are.
  const built = ['./fonts/', '../../workers/fonts/'].map((folder) => fileURLToPath(new URL(folder + name, import.meta.url)))
  return built.find(existsSync) ?? createRequire(import.meta.url).resolve(`@fontsource/atkinson-hyperlegible-next/files/${name}`)
}
/** How tables are ruled, by name: what goes to another thread holds no functions. */
const layouts: Record<'ruled' | 'grid', CustomTableLayout> = {
  ruled: {
    hLineWidth: (line) => (line === 0 ? 0 : 0.5),
    vLineWidth: () => 0,
    hLineColor: () => '#bdb6a4',
    paddingLeft: () => 0,
    paddingRight: () => 8,
    paddingTop: () => 3,
    paddingBottom: () => 3,
  },
  grid: { hLineColor: () => '#bdb6a4', vLineColor: () => '#bdb6a4', hLineWidth: () => 0.5, vLineWidth: () => 0.5 },
}
let prepared = false
/** The letters of each font, in the order they are looked for. */
let glyphs: { name: string; font: Font }[] = []

function prepare(): void {
  if (prepared) return
  const [normal, bold] = [fontFile(400), fontFile(700)]
  const [more, moreBold] = [fontFile(400, 'latin-ext'), fontFile(700, 'latin-ext')]
  pdfmake.setFonts({
    Atkinson: { normal, bold, italics: normal, bolditalics: bold },
    AtkinsonMore: { normal: more, bold: moreBold, italics: more, bolditalics: moreBold },
  })
  glyphs = [
    { name: 'Atkinson', font: openSync(normal) as Font },
    { name: 'AtkinsonMore', font: openSync(more) as Font },
  ]
  // Nothing but these fonts is ever read, and nothing is fetched.
  const known = new Set([normal, bold, more, moreBold])
  pdfmake.addTableLayouts(layouts)
  pdfmake.setUrlAccessPolicy(() => false)
  pdfmake.setLocalAccessPolicy((path) => known.has(path))
  prepared = true
}

/** What no font has: a picture sign, a letter of another script. It is said that there was one. */
const unprintable = '[sign]'
/** Signs of the trade that the font lacks, as one writes them without. */
const spelled: Record<string, string> = { Ω: 'ohm', '\u2126': 'ohm', '→': '->', '−': '-', '≤': '<=', '≥': '>=', '✓': 'yes' }
/** A text in the fonts that have its letters; nothing that somebody wrote is printed as an empty box or left out unsaid. */
export function printable(text: string): string | { text: string; font: string }[] {
  prepare()
  const runs: { text: string; font: string }[] = []
  let missing = false
  // Joiners and skin tones belong to the sign before them.
  for (const sign of text.normalize('NFC').replace(/\u200d|\ufe0e|\ufe0f|[\u{1f3fb}-\u{1f3ff}]/gu, '')) {
    const code = sign.codePointAt(0)!
    const has = /\s/.test(sign) ? glyphs[0] : glyphs.find(({ font }) => font.hasGlyphForCodePoint(code))
    const otherwise = spelled[sign]
    const said = has ? sign : (otherwise ?? (missing ? '' : unprintable))
    missing = !has && otherwise === undefined
    const font = has?.name ?? 'Atkinson'
    const last = runs.at(-1)
    if (last?.font === font) last.text += said
    else if (said) runs.push({ text: said, font })
  }
  return runs.length < 2 && (runs[0]?.font ?? 'Atkinson') === 'Atkinson' ? (runs[0]?.text ?? '') : runs
}
/** The same for everything that is written in a content. */
function printed<T>(node: T): T {
  if (typeof node === 'string') {
    const runs = printable(node)
    return (typeof runs === 'string' ? runs : { text: runs }) as T
  }
  if (Array.isArray(node)) return node.map(printed) as T
  if (typeof node !== 'object' || node === null) return node
  const part = ([key, value]: [string, unknown]) => {
    if (key === 'text' && typeof value === 'string') return [key, printable(value)]
    return [key, typeof value === 'object' ? printed(value) : value]
  }
  return Object.fromEntries(Object.entries(node).map(part)) as T
}

/** Values and dates as they are written there; not in drawings, whose numbers are no text, nor in links. */
const written = <T>(content: T, { locale }: Region): T =>
  eachText(content, (text, key) => (key === 'svg' || key === 'qr' ? text : inRegion(text, locale)))

/** 210 mm in points of 1/72 in. */
const petrol = '#14595d'
export interface Paper {
  title: string
  company: string
  footer: string
  schemeId: SchemeId
  region: Region
  content: Content[]
}

/** Renders a paper in the words of its supply and region, on Letter where the supply is the 120/240 V one, on A4 elsewhere. */
export async function renderPaper({ title, company, footer, schemeId, region, content }: Paper): Promise<Buffer> {
  prepare()
  const definition: TDocumentDefinitions = {
    info: { title: inTrade(title, schemeId), author: company },
    pageSize: schemeId === 'na120' ? 'LETTER' : 'A4',
    pageMargins: [48, 48, 48, 56],
    defaultStyle: { font: 'Atkinson', fontSize: 9.5, lineHeight: 1.2, color: '#1d2421' },
    styles: { heading: { fontSize: 13, bold: true, color: petrol, margin: [0, 16, 0, 5] }, title: { fontSize: 22, bold: true } },
    footer: (page, pages) => ({
      columns: [
        { text: printable(footer), color: '#5b635d' },
        { text: `${page} of ${pages}`, alignment: 'right', color: '#5b635d' },
      ],
      margin: [48, 16, 48, 0],
      fontSize: 8.5,
    }),
    content: printed(written(inTrade(content, schemeId), region)),
  }
  return pdfmake.createPdf(definition).getBuffer()
}

/**
 * Drawings in millimetres of a sheet as pages of their own, without margins: what is cut out must keep its size.
 * @param widthMm how wide each is
 */
export async function renderDrawings(title: string, schemeId: SchemeId, svgs: string[], widthMm = 210): Promise<Buffer> {
  prepare()
  return pdfmake
    .createPdf({
      info: { title },
      pageSize: schemeId === 'na120' ? 'LETTER' : 'A4',
      pageMargins: 0,
      defaultStyle: { font: 'Atkinson' },
      content: svgs.map((svg, index): Content => ({ svg, width: (widthMm / 25.4) * 72, ...(index ? { pageBreak: 'before' } : {}) })),
    })
    .getBuffer()
}

/** What is printed, as it goes to another thread. */
export type Printing =
  { kind: 'paper'; paper: Paper } | { kind: 'drawings'; title: string; schemeId: SchemeId; svgs: string[]; widthMm: number }
