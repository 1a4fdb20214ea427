import { gestureEffectWords, gestureWords, type Gesture } from '../fit/words'
import { papers, type Paper } from '../names/labels'
import { svgText } from '../wiring/drawing'
import { guestKindWords, type GuestCard, type GuestHands, type GuestPlate } from './guest-card'

/** Letters of 18 points and more, as large print is: millimetres. Source: Clear Print guidance, 16 point and more (from memory). */
const [large, title, small] = [6.4, 11, 5.8]
const margin = 16
const ink = '#1d2421'
/** Wider letters than these are rare. */
const widthOfLetter = 0.5

/** A piece of the card, so high; drawn with its upper left corner at 0,0. */
interface Piece {
  height: number
  draw: string
  /** Stays with what follows. */
  keeps?: boolean
}
const fits = (size: number, width: number) => Math.max(8, Math.floor(width / (size * widthOfLetter)))
/** Breaks at spaces; a word that is longer than a line is cut. */
export function linesIn(text: string, most: number): string[] {
  const lines: string[] = []
  for (const word of text.split(/\s+/).flatMap((one) => one.match(new RegExp(`.{1,${most}}`, 'gsu')) ?? [])) {
    const last = lines.at(-1)
    if (last !== undefined && last.length + 1 + word.length <= most) lines[lines.length - 1] = `${last} ${word}`
    else lines.push(word)
  }
  return lines
}
const at = (x: number, y: number, text: string, size: number, weight = 'normal') =>
  `<text x="${x}" y="${y}" font-size="${size}" font-weight="${weight}">${svgText(text)}</text>`
function words(text: string, width: number, size = large, weight = 'normal', x = 0): Piece {
  const lines = linesIn(text, fits(size, width))
  return {
    height: lines.length * size * 1.3 + 1,
    draw: lines.map((line, index) => at(x, size + index * size * 1.3, line, size, weight)).join(''),
  }
}

/** A rocker seen from the front, and what the finger does: a dot where it presses, a ring around it where it stays, two where it comes twice. */
function gesturePicture(gesture: Gesture): string {
  const rocker = `<rect x="1" y="1" width="12" height="18" rx="1.4" fill="none" stroke="${ink}" stroke-width="0.8"/><path d="M1 10h12" stroke="${ink}" stroke-width="0.4"/>`
  const y = /Top/.test(gesture) ? 5.5 : /Bottom/.test(gesture) ? 14.5 : 10
  const dot = (x: number) => `<circle cx="${x}" cy="${y}" r="1.9" fill="${ink}"/>`
  if (gesture === 'flip')
    return `${rocker}<path d="M7 5v10M4.6 7.4 7 5l2.4 2.4M4.6 12.6 7 15l2.4-2.4" fill="none" stroke="${ink}" stroke-width="1"/>`
  if (gesture === 'slide')
    return `${rocker}<path d="M7 4v12M5 6l2-2 2 2M5 14l2 2 2-2" fill="none" stroke="${ink}" stroke-width="1"/><circle cx="7" cy="10" r="2.2" fill="${ink}"/>`
  if (gesture === 'pressTwice') return `${rocker}${dot(4.6)}${dot(9.4)}`
  const held = gesture === 'hold' || gesture === 'holdTop' || gesture === 'holdBottom'
  return `${rocker}${dot(7)}${held ? `<circle cx="7" cy="${y}" r="3.6" fill="none" stroke="${ink}" stroke-width="0.8"/>` : ''}`
}
function handPieces(all: readonly GuestHands[], width: number): Piece[] {
  return all.flatMap(({ kind, hands }): Piece[] => [
    { ...words(guestKindWords[kind], width, large, 'bold'), keeps: true },
    ...hands.map(({ gesture, does }): Piece => ({
      height: 23,
      draw: gesturePicture(gesture) + at(19, 12.5, `${gestureWords[gesture]}: ${gestureEffectWords[does]}`, large),
    })),
  ])
}
/** A plate in its true proportion of gangs, each with its number, and what each moves beside it. */
function platePiece({ box, gangs }: GuestPlate, width: number): Piece {
  const [gangWidth, plateHeight] = [11, 20]
  const plateWidth = gangs.length * gangWidth + 3
  const mark = { switch: '', dimmer: '<path d="M3 15.5 8 8.5v7z"/>', fan: '<path d="M5.5 12 3 8M5.5 12 9 9.5M5.5 12 4.6 16"/>' }
  const drawn = gangs.map((gang, index) => {
    const x = 1.5 + index * gangWidth
    const shape = `<rect x="1" y="2" width="9" height="16" rx="1" fill="${gang ? '#ffffff' : '#e6e0d2'}"/>`
    return `<g transform="translate(${x} 0)" fill="none" stroke="${ink}" stroke-width="0.6">${shape}${gang?.kind ? mark[gang.kind] : ''}</g>${
      gang && gangs.length > 1 ? at(x + 4, 7.6, String(index + 1), 4.6, 'bold') : ''
    }`
  })
  const beside = plateWidth + 6
  const moved = gangs.flatMap((gang, index) =>
    gang ? [`${gangs.length > 1 ? `${index + 1}  ` : ''}${gang.names.join(' and ')}${gang.unknown ? ' (ask your host how)' : ''}`] : [],
  )
  const lines = moved.flatMap((text) => linesIn(text, fits(large, width - beside)))
  const text = lines.map((line, index) => at(beside, 8 + index * large * 1.3, line, large)).join('')
  const where = linesIn(box, fits(small, width)).map((line, index) => at(0, plateHeight + 6 + index * small * 1.3, line, small))
  const body = Math.max(plateHeight, 4 + lines.length * large * 1.3)
  return {
    height: body + where.length * small * 1.3 + 5,
    draw: `<rect x="0.4" y="0.4" width="${plateWidth}" height="${plateHeight - 0.8}" rx="1.6" fill="#f7f4ec" stroke="${ink}" stroke-width="0.8"/>${drawn.join('')}${text}<g transform="translate(0 ${body - plateHeight})">${where.join('')}</g>`,
  }
}
const space = (height: number): Piece => ({ height, draw: '' })

/**
 * The card as drawings, one for each sheet, in millimetres: to be hung beside the door or laid on the table.
 * @param telephone of the company; empty: none is printed
 */
export function guestCardSheets(card: GuestCard, paper: Paper, company: { name: string; telephone: string }): string[] {
  const [width, height] = papers[paper]
  const inner = width - 2 * margin
  const pieces: Piece[] = [
    words(`Lights at ${card.home}`, inner, title, 'bold'),
    space(4),
    ...handPieces(card.hands, inner),
    ...(card.oldOnes ? [words(`${card.hands.length ? 'Other' : 'The'} switches work as they always did.`, inner), space(2)] : []),
    words('The wall works by itself: no telephone and no app is needed.', inner),
    ...(card.mayForget ? [words('Do not hold a key for long, or flip it again and again: it may forget this home.', inner)] : []),
    words(
      'It smells burnt, is hot, buzzes or gives a shock: leave it alone and tell your host. In danger call the emergency number.',
      inner,
      large,
      'bold',
    ),
    ...card.rooms.flatMap((room) => [
      space(5),
      { ...words(room.name, inner, 8, 'bold'), keeps: true },
      ...(room.otherwise.length
        ? [{ ...words('Otherwise than elsewhere:', inner), keeps: true }, ...handPieces(room.otherwise, inner)]
        : []),
      ...room.plates.map((plate) => platePiece(plate, inner)),
    ]),
    space(3),
    words(company.telephone ? `${company.name}, ${company.telephone}` : company.name, inner, small),
  ]
  const sheets: string[][] = [[]]
  let y = margin
  pieces.forEach((piece, index) => {
    // A head is not left alone at the foot of a sheet.
    let needs = piece.height
    for (let next = index; pieces[next]?.keeps; next++) needs += pieces[next + 1]?.height ?? 0
    if (y + needs > height - margin && sheets.at(-1)!.length) {
      sheets.push([])
      y = margin
    }
    if (piece.draw) sheets.at(-1)!.push(`<g transform="translate(${margin} ${y.toFixed(1)})">${piece.draw}</g>`)
    if (piece.draw || sheets.at(-1)!.length) y += piece.height
  })
  return sheets.map(
    (drawn) =>
      `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}" font-family="sans-serif" fill="${ink}">${drawn.join('')}</svg>`,
  )
}
