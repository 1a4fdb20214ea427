import { svgText } from './drawing'

export interface ConductorLabel {
  letter: string
  cable: string
  word: string
}

/** Flags to cut and fold around each conductor, on a sheet of A4: the letter on both sides of the fold. SVG in millimetres. */
export function labelSheet(box: string, labels: ConductorLabel[]): string {
  const flag = (label: ConductorLabel, index: number) => {
    const x = 12 + (index % 3) * 63
    const y = 26 + Math.floor(index / 3) * 24
    const half = (left: number) =>
      `<text x="${left + 6}" y="${y + 13}" font-size="9" font-weight="700" text-anchor="middle">${svgText(label.letter)}</text>` +
      `<text x="${left + 12}" y="${y + 8}" font-size="2.1">${svgText(box)}</text>` +
      `<text x="${left + 12}" y="${y + 12}" font-size="2.1">${svgText(label.cable)}</text>` +
      `<text x="${left + 12}" y="${y + 16}" font-size="2.4" font-weight="700">${svgText(label.word)}</text>`
    return (
      `<rect x="${x}" y="${y}" width="60" height="19" fill="none" stroke="#222" stroke-width=".25"/>` +
      `<path d="M${x + 30} ${y}v19" stroke="#222" stroke-width=".2" stroke-dasharray="1 1"/>` +
      `${half(x)}${half(x + 30)}`
    )
  }
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="210mm" height="297mm" viewBox="0 0 210 297" font-family="sans-serif" fill="#222">` +
    `<text x="12" y="16" font-size="6" font-weight="700">${svgText(box)}</text><text x="12" y="21" font-size="3.4">Cut out, fold at the dashed line around the conductor.</text>` +
    `${labels.map(flag).join('')}</svg>`
  )
}
