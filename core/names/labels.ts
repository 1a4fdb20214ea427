import { svgText } from '../wiring/drawing'

export interface WallLabel {
  name: string
  where: string
}
/** Sizes of paper, mm. */
export const papers = { letter: [215.9, 279.4], a4: [210, 297] } as const
export type Paper = keyof typeof papers

const [columns, rows, margin] = [3, 10, 12]
/** Wider letters than these are rare; a name that is longer is set smaller. */
const widthOfLetter = 0.56

/** Labels for the wall, to be cut out: one drawing for each sheet, in millimetres. */
export function labelSheets(labels: readonly WallLabel[], paper: Paper): string[] {
  const [width, height] = papers[paper]
  const [cellWidth, cellHeight] = [(width - 2 * margin) / columns, (height - 2 * margin) / rows]
  const perSheet = columns * rows
  return Array.from({ length: Math.ceil(labels.length / perSheet) }, (_, sheet) => {
    const cells = labels.slice(sheet * perSheet, (sheet + 1) * perSheet).map(({ name, where }, index) => {
      const [x, y] = [margin + (index % columns) * cellWidth, margin + Math.floor(index / columns) * cellHeight]
      const size = Math.min(6.5, (cellWidth - 8) / (Math.max(1, name.length) * widthOfLetter))
      const small = Math.min(3, (cellWidth - 8) / (Math.max(1, where.length) * widthOfLetter))
      const text = (line: string, at: number, fontSize: number, weight: string) =>
        `<text x="${(x + cellWidth / 2).toFixed(2)}" y="${(y + at).toFixed(2)}" font-size="${fontSize.toFixed(2)}" font-weight="${weight}" text-anchor="middle">${svgText(line)}</text>`
      return [
        `<rect x="${x.toFixed(2)}" y="${y.toFixed(2)}" width="${cellWidth.toFixed(2)}" height="${cellHeight.toFixed(2)}" fill="none" stroke="#bdb6a4" stroke-width="0.2"/>`,
        text(name, cellHeight * 0.52, size, 'bold'),
        text(where, cellHeight * 0.78, small, 'normal'),
      ].join('')
    })
    return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}" font-family="sans-serif" fill="#1d2421">${cells.join('')}</svg>`
  })
}
