import type { ConductorColour } from '../site'

export interface SketchConductor {
  letter: string
  colour: ConductorColour
  cable: string
  /** Its role, once it is established. */
  word: string | null
}
export interface SketchTerminal {
  key: string
  word: string
  /** Its whole name, where the drawing has a short one. */
  spoken?: string
  letters: string[]
  done: boolean
}
export interface SketchDevice {
  /** `gang1`, or `old1` for an old switch that stays. */
  part: string
  name: string
  note: string
  chosen: boolean
  terminals: SketchTerminal[]
}
/** A box to be drawn: what is in it and what is connected. */
export interface Sketch {
  conductors: SketchConductor[]
  splices: string[][]
  devices: SketchDevice[]
  /** Short pieces of wire between ends: a letter, or `gang1:sense`. */
  jumpers: { from: string; to: string }[]
}

interface Spot {
  x: number
  y: number
}
export interface LaidTerminal extends SketchTerminal {
  x: number
  /** Its word stands in the second line. */
  low: boolean
}
export interface LaidDevice extends Omit<SketchDevice, 'terminals'> {
  x: number
  y: number
  wide: number
  terminals: LaidTerminal[]
}
export interface LaidSplice {
  letters: string[]
  /** Of the box's splices; −1 where several conductors on one terminal make one. */
  index: number
  x: number
}
export interface LaidWire {
  conductor: SketchConductor
  /** From its cable to its end, as an SVG path. */
  path: string
  end: Spot & { kind: 'splice' | 'terminal' | 'loose' }
  /** Middle of its tag. */
  label: Spot
}
export interface SketchLayout {
  width: number
  height: number
  /** Left and right of the box. */
  side: number
  narrow: boolean
  /** Side of a conductor's tag. */
  tag: number
  /** Words stand beside the tags. */
  worded: boolean
  cableHalf: number
  cables: { name: string; x: number; raised: boolean }[]
  devices: LaidDevice[]
  splices: LaidSplice[]
  wires: LaidWire[]
  pigtails: { key: string; path: string }[]
  jumpers: { key: string; path: string }[]
}

const unnamed = 'cable'
/** Where cables end, where splices hang, where devices begin. */
export const cableEndY = 92
export const spliceY = 306
export const deviceTop = 420
const rowHeight = 172
const belowDevices = 170
const widest = 940
const narrowest = 360
/** Below this a phone holds it. */
const phoneBelow = 620

/**
 * Lays a box out as one sees it: cables from above, conductors to their ends, splices, device terminals below.
 * @param room what there is for it, in CSS px; the drawing is as wide, within its limits, so that tags stay as large as a thumb
 */
export function layOutSketch(sketch: Sketch, room: number): SketchLayout {
  const width = Math.round(Math.min(widest, Math.max(narrowest, room)))
  const narrow = width < phoneBelow
  const side = narrow ? 10 : 60
  const inner = width - 2 * side
  const names = [...new Set(sketch.conductors.map(({ cable }) => cable || unnamed))]
  const lane = (inner - 30) / Math.max(1, names.length)
  const cableX = (name: string) => side + 15 + (names.indexOf(name || unnamed) + 0.5) * lane
  const cableHalf = Math.min(31, lane / 2 - 6)
  const rows = deviceRows(sketch.devices, Math.floor((inner - 20) / (narrow ? 46 : 54)))
  const devices = layOutDevices(rows, side + 10, inner - 20)
  const splices = layOutSplices(sketch, cableX, side + 40, inner - 60)
  const ends = endsOf(splices, devices)
  const worded = !narrow || sketch.conductors.length <= 7
  const tag = narrow ? 36 : 30
  return {
    width,
    height: deviceTop + belowDevices + (rows.length - 1) * rowHeight,
    side,
    narrow,
    tag,
    worded,
    cableHalf,
    cables: names.map((name, index) => ({ name, x: cableX(name), raised: narrow && index % 2 === 1 })),
    devices,
    splices,
    wires: layOutWires(sketch.conductors, ends, {
      cableX,
      pitch: Math.min(15, (2 * cableHalf - 8) / 3),
      left: side + 40,
      inner: inner - 80,
      tag,
      worded,
    }),
    pigtails: pigtailsOf(splices, devices),
    jumpers: jumperPaths(sketch.jumpers, ends, devices),
  }
}

/** As many devices in a row as leave each terminal room for a thumb. */
function deviceRows(devices: SketchDevice[], room: number): SketchDevice[][] {
  const rows: SketchDevice[][] = []
  let free = 0
  for (const device of devices) {
    const needs = places(device)
    if (!rows.length || needs > free) {
      rows.push([])
      free = room
    }
    rows.at(-1)!.push(device)
    free -= needs
  }
  return rows
}
const places = ({ terminals }: SketchDevice) => Math.max(2, terminals.length)

function layOutDevices(rows: SketchDevice[][], left: number, room: number): LaidDevice[] {
  return rows.flatMap((row, line) => {
    const unit = room / row.reduce((sum, device) => sum + places(device), 0)
    let slotAt = left
    return row.map((device) => {
      const slot = places(device) * unit
      const x = slotAt + 6
      slotAt += slot
      const wide = slot - 12
      const pitch = wide / Math.max(1, device.terminals.length)
      return {
        ...device,
        x,
        y: deviceTop + line * rowHeight,
        wide,
        // Long words of close terminals stand in two lines.
        terminals: device.terminals.map((terminal, at) => ({ ...terminal, x: x + (at + 0.5) * pitch, low: at % 2 === 1 && pitch < 70 })),
      }
    })
  })
}

/** Splices of the box, and those that several conductors on one terminal make: each below its conductors, none on another. */
function layOutSplices(
  { conductors, splices, devices }: Sketch,
  cableX: (name: string) => number,
  left: number,
  room: number,
): LaidSplice[] {
  const made = splices.map((letters, index) => ({ letters, index }))
  for (const { letters } of devices.flatMap(({ terminals }) => terminals)) {
    const loose = letters.filter((letter) => !splices.some((splice) => splice.includes(letter)))
    if (loose.length > 1) made.push({ letters: loose, index: -1 })
  }
  const startOf = (letter: string) => cableX(conductors.find((one) => one.letter === letter)?.cable ?? '')
  const placed = made
    .map((splice) => ({ ...splice, x: splice.letters.reduce((sum, letter) => sum + startOf(letter), 0) / splice.letters.length }))
    .sort((a, b) => a.x - b.x)
  const gap = Math.min(110, room / Math.max(1, placed.length))
  const right = left + room - 20
  placed.forEach((splice, index) => {
    const least = left + index * gap
    const most = right - (placed.length - 1 - index) * gap
    splice.x = Math.min(most, Math.max(least, index ? Math.max(splice.x, placed[index - 1]!.x + gap) : splice.x))
  })
  return placed
}

type Ends = Map<string, Spot & { kind: 'splice' | 'terminal' }>
function endsOf(splices: LaidSplice[], devices: LaidDevice[]): Ends {
  const at: Ends = new Map()
  for (const { letters, x } of splices)
    letters.forEach((letter, index) => at.set(letter, { x: x + (index - (letters.length - 1) / 2) * 9, y: spliceY + 4, kind: 'splice' }))
  for (const { y, terminals } of devices)
    for (const { x, letters } of terminals)
      for (const letter of letters) if (!at.has(letter)) at.set(letter, { x, y: y - 3, kind: 'terminal' })
  return at
}

/** From a splice to the terminal that one of its conductors stands for. */
const pigtailsOf = (splices: LaidSplice[], devices: LaidDevice[]) =>
  devices.flatMap(({ part, y, terminals }) =>
    terminals.flatMap(({ key, x, letters }) => {
      const splice = splices.find((one) => letters.some((letter) => one.letters.includes(letter)))
      if (!splice) return []
      const from = spliceY + 36
      return [{ key: `${part} ${key}`, path: `M${splice.x} ${from}C${splice.x} ${from + 44} ${x} ${y - 60} ${x} ${y - 3}` }]
    }),
  )

/** From end to end: arcs above the terminals; from a conductor's connector or terminal like a pigtail. */
function jumperPaths(jumpers: Sketch['jumpers'], ends: Ends, devices: LaidDevice[]) {
  const placeOf = (end: string): Spot | null => {
    const [part, key] = end.split(':')
    if (!key) return ends.get(end) ?? null
    const device = devices.find((one) => one.part === part)
    const terminal = device?.terminals.find((one) => one.key === key)
    return terminal ? { x: terminal.x, y: device!.y - 3 } : null
  }
  return jumpers.flatMap(({ from, to }, index) => {
    const a = placeOf(from)
    const b = placeOf(to)
    if (!a || !b) return []
    const lift = 34 + 12 * (index % 4)
    const hangs = Math.min(a.y, b.y) < deviceTop - 20
    const path = hangs
      ? `M${a.x} ${a.y + 30}C${a.x} ${a.y + 74} ${b.x} ${b.y - 56} ${b.x} ${b.y}`
      : `M${a.x} ${a.y}C${a.x} ${a.y - lift} ${b.x} ${b.y - lift} ${b.x} ${b.y}`
    return [{ key: `${from} ${to}`, path }]
  })
}

interface Lanes {
  cableX: (name: string) => number
  /** Between the conductors of one cable. */
  pitch: number
  left: number
  inner: number
  tag: number
  worded: boolean
}
/** Where along its conductor a tag is tried, in this order. */
const tagSpots = [0.3, 0.42, 0.54, 0.66, 0.2, 0.76, 0.36, 0.48, 0.6, 0.24, 0.7, 0.84, 0.12, 0.8, 0.9]

/** How wide a role's word is in the drawing. */
export const wordWide = (word: string) => word.length * 7 + 8

function layOutWires(conductors: SketchConductor[], ends: Ends, { cableX, pitch, left, inner, tag, worded }: Lanes): LaidWire[] {
  const taken: (Spot & { wide: number })[] = []
  return conductors.map((conductor, index) => {
    const mates = conductors.filter((other) => (other.cable || unnamed) === (conductor.cable || unnamed))
    const x0 = cableX(conductor.cable) + (mates.indexOf(conductor) - (mates.length - 1) / 2) * pitch
    const loose = { x: left + ((index + 0.5) * inner) / conductors.length, y: 250 + (index % 3) * 26, kind: 'loose' as const }
    const end = ends.get(conductor.letter) ?? loose
    const bend = (end.y - cableEndY) * 0.5
    const bezier = (t: number, p: number, q: number, r: number, u: number) =>
      (1 - t) ** 3 * p + 3 * (1 - t) ** 2 * t * q + 3 * (1 - t) * t ** 2 * r + t ** 3 * u
    const spots = tagSpots.map((t) => ({
      x: bezier(t, x0, x0, end.x, end.x),
      y: bezier(t, cableEndY, cableEndY + bend, end.y - bend, end.y),
    }))
    // Tags keep clear of each other: each takes the first free place on its conductor.
    const wide = tag + (conductor.word && worded ? wordWide(conductor.word) + 2 : 0)
    const free = (spot: Spot) =>
      taken.every((other) => Math.abs(other.y - spot.y) > tag + 3 || spot.x + wide < other.x - 3 || other.x + other.wide < spot.x - 3)
    const label = spots.find(free) ?? spots[index % spots.length]!
    taken.push({ ...label, wide })
    const path = `M${x0} ${cableEndY}C${x0} ${cableEndY + bend} ${end.x} ${end.y - bend} ${end.x} ${end.y}`
    return { conductor, path, end, label }
  })
}
