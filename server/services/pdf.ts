import type { Content, TableCell } from 'pdfmake/interfaces'
import type { SchemeId } from '../../core/units'
import type { Paper } from '../workers/render-paper'
import { printed } from './paper-queue'

export { printable, type Paper } from '../workers/render-paper'

export const soft = '#5b635d'
export const heading = (text: string): Content => ({ text, style: 'heading' })

/** @param heads of the columns; none where all are empty */
export function table(
  heads: (string | { text: string; alignment: 'right' })[],
  rows: (string | TableCell)[][],
  widths: (string | number)[],
): Content {
  const named = heads.some((head) => head !== '')
  return {
    table: {
      headerRows: named ? 1 : 0,
      keepWithHeaderRows: named ? 1 : 0,
      widths,
      dontBreakRows: true,
      body: [
        ...(named
          ? [heads.map((head) => ({ ...(typeof head === 'string' ? { text: head } : head), bold: true, color: soft }) as TableCell)]
          : []),
        ...rows,
      ],
    },
    layout: 'ruled',
  }
}

/** Renders a paper in the words of its supply and region, on Letter where the supply is the 120/240 V one, on A4 elsewhere. */
export const makePdf = (paper: Paper): Promise<Buffer> => printed({ kind: 'paper', paper })

/**
 * Drawings in millimetres of a sheet as pages of their own, without margins: what is cut out must keep its size.
 * @param widthMm how wide each is
 */
export const drawingPdf = (title: string, schemeId: SchemeId, svgs: string[], widthMm = 210): Promise<Buffer> =>
  printed({ kind: 'drawings', title, schemeId, svgs, widthMm })
