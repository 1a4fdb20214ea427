import { createRequire } from 'node:module'
import pdfmake from 'pdfmake'
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces'
import type { SchemeId } from '../../core/units'

/** What every printed paper of a company shares: fonts, page, footer, tables. */
const fontFile = (weight: 400 | 700) =>
  createRequire(import.meta.url).resolve(
    `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
  )
let prepared = false

function prepare(): void {
  if (prepared) return
  const [normal, bold] = [fontFile(400), fontFile(700)]
  pdfmake.setFonts({ Atkinson: { normal, bold, italics: normal, bolditalics: bold } })
  // Nothing but the two fonts is ever read, and nothing is fetched.
  pdfmake.setUrlAccessPolicy(() => false)
  pdfmake.setLocalAccessPolicy((path) => path === normal || path === bold)
  prepared = true
}

/** 210 mm in points of 1/72 in. */
const pointsOfA4Width = (210 / 25.4) * 72
const petrol = '#14595d'
export const soft = '#5b635d'
/** A moment in words, in the branch's time. */
export const day = (iso: string, zone: string) =>
  new Intl.DateTimeFormat('en-GB', { timeZone: zone, dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso))
export const heading = (text: string): Content => ({ text, style: 'heading' })

export function table(heads: string[], rows: (string | TableCell)[][], widths: (string | number)[]): Content {
  return {
    table: { headerRows: 1, widths, dontBreakRows: true, body: [heads.map((text) => ({ text, bold: true, color: soft })), ...rows] },
    layout: {
      hLineWidth: (line) => (line === 0 ? 0 : 0.5),
      vLineWidth: () => 0,
      hLineColor: () => '#bdb6a4',
      paddingLeft: () => 0,
      paddingRight: () => 8,
      paddingTop: () => 3,
      paddingBottom: () => 3,
    },
  }
}

export interface Paper {
  title: string
  company: string
  footer: string
  schemeId: SchemeId
  content: Content[]
}

/** Renders a paper, on Letter where the supply is the 120/240 V one, on A4 elsewhere. */
export async function makePdf({ title, company, footer, schemeId, content }: Paper): Promise<Buffer> {
  prepare()
  const definition: TDocumentDefinitions = {
    info: { title, author: company },
    pageSize: schemeId === 'na120' ? 'LETTER' : 'A4',
    pageMargins: [48, 48, 48, 56],
    defaultStyle: { font: 'Atkinson', fontSize: 9.5, lineHeight: 1.2, color: '#1d2421' },
    styles: { heading: { fontSize: 13, bold: true, color: petrol, margin: [0, 16, 0, 5] }, title: { fontSize: 22, bold: true } },
    footer: (page, pages) => ({
      columns: [
        { text: footer, color: soft },
        { text: `${page} of ${pages}`, alignment: 'right', color: soft },
      ],
      margin: [48, 16, 48, 0],
      fontSize: 8.5,
    }),
    content,
  }
  return pdfmake.createPdf(definition).getBuffer()
}

/** A drawing in millimetres of a sheet as a page of its own, without margins: what is cut out must keep its size. */
export async function drawingPdf(title: string, schemeId: SchemeId, svg: string): Promise<Buffer> {
  prepare()
  return pdfmake
    .createPdf({
      info: { title },
      pageSize: schemeId === 'na120' ? 'LETTER' : 'A4',
      pageMargins: 0,
      defaultStyle: { font: 'Atkinson' },
      content: [{ svg, width: pointsOfA4Width }],
    })
    .getBuffer()
}
