import { svgText } from '../wiring/drawing'
import type { HomeSection } from './home-page'

/** What stands over the sections. */
export interface HomeHead {
  home: string
  company: string
  telephone: string
  /** When it was written, and when the home was handed over, as one writes it there. */
  made: string
  handedOver: string
  /** Of the language tag: en-US. */
  locale: string
}

const style = `body{font:18px/1.5 "Atkinson Hyperlegible Next",system-ui,sans-serif;color:#1d2421;background:#f7f4ec;margin:0 auto;max-width:50rem;padding:1.5rem}
h1{font-size:1.7rem;line-height:1.2;margin:.2em 0}h2{font-size:1.2rem;margin:1.8em 0 .4em;border-bottom:1px solid #bdb6a4}
table{border-collapse:collapse;width:100%;font-size:.92rem}th{text-align:left}td,th{padding:.4em .8em .4em 0;border-bottom:1px solid #ddd6c6;vertical-align:top}
.soft{color:#5b635d}li{margin:.3em 0}.card svg{width:100%;height:auto;background:#fff;border:1px solid #bdb6a4;margin:.5em 0}
@media print{body{background:#fff}.card{break-before:page}}
@media(max-width:600px){table,tbody,tr,td{display:block}thead{display:none}td{border:0;padding:.1em 0}tr{border-bottom:1px solid #ddd6c6;padding:.5em 0}}`

/** Said in a file without codes. */
export const codesNotHere = 'Setup codes are not in this file: they stand on the cards and on the devices.'

const sectionHtml = ({ title, lines, numbered, table }: HomeSection): string => {
  const list = lines.length === 1 && !numbered ? `<p>${svgText(lines[0]!)}</p>` : lines.map((line) => `<li>${svgText(line)}</li>`).join('')
  const tag = numbered ? 'ol' : 'ul'
  const cells = (row: string[], tag: 'td' | 'th') => row.map((cell) => `<${tag}>${svgText(cell)}</${tag}>`).join('')
  const rows = table
    ? `<table><thead><tr>${cells(table.heads, 'th')}</tr></thead><tbody>${table.rows.map((row) => `<tr>${cells(row, 'td')}</tr>`).join('')}</tbody></table>`
    : ''
  return `<section><h2>${svgText(title)}</h2>${list.startsWith('<li>') ? `<${tag}>${list}</${tag}>` : list}${rows}</section>`
}

/**
 * A home as one file to keep: it opens anywhere, loads nothing, and holds no code.
 * @param card the guest card, as drawings
 */
export const homeHtml = (head: HomeHead, sections: readonly HomeSection[], card: readonly string[]): string =>
  `<!doctype html><html lang="${svgText(head.locale)}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'"><title>${svgText(head.home)}</title><style>${style}</style></head><body><header><p class="soft">${svgText(head.company)}${head.telephone ? `, ${svgText(head.telephone)}` : ''}</p><h1>${svgText(head.home)}</h1><p class="soft">${svgText(head.handedOver)} Written ${svgText(head.made)}. ${codesNotHere}</p></header>${sections.map(sectionHtml).join('')}<section class="card"><h2>For guests</h2>${card.join('')}</section></body></html>`
