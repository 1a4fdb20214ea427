import fc from 'fast-check'
import { layOutSketch, spliceY, type Sketch } from './sketch-layout'

const colours = ['black', 'red', 'white', 'bare', 'brown', 'blue', 'green-yellow'] as const
const letters = 'ABCDEFGHIJKLMNOP'.split('')
/** Boxes of one to four cables and one to four devices, wired anyhow: also in ways nobody would. */
const sketches = fc
  .record({
    cores: fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 1, maxLength: 4 }),
    devices: fc.array(fc.integer({ min: 2, max: 5 }), { maxLength: 4 }),
    to: fc.array(fc.integer({ min: -1, max: 19 }), { minLength: 16, maxLength: 16 }),
    splices: fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 16, maxLength: 16 }),
    words: fc.boolean(),
  })
  .map(({ cores, devices, to, splices, words }): Sketch => {
    let next = 0
    const conductors = cores.flatMap((count, cable) =>
      Array.from({ length: count }, () => {
        const letter = letters[next++]!
        return { letter, colour: colours[next % colours.length]!, cable: `cable ${cable + 1}`, word: words ? 'traveler' : null }
      }),
    )
    const used = conductors.map(({ letter }) => letter)
    const inSplice = (index: number) => used.filter((_, at) => splices[at] === index)
    let terminal = 0
    return {
      conductors,
      splices: [1, 2, 3, 4].map(inSplice).filter((group) => group.length > 1),
      devices: devices.map((count, index) => ({
        part: `gang${index + 1}`,
        name: 'Device',
        note: '',
        chosen: true,
        terminals: Array.from({ length: count }, (_, at) => {
          const here = terminal++
          return { key: `t${at}`, word: 'line', letters: used.filter((_, one) => to[one] === here), done: false }
        }),
      })),
      jumpers: devices.length ? [{ from: 'gang1:t0', to: 'gang1:t1' }] : [],
    }
  })
const widths = fc.constantFrom(0, 320, 360, 390, 619, 620, 768, 940, 2000)

describe('a box laid out', () => {
  test('is as wide as there is room for, within its limits', () => {
    const empty = { conductors: [], splices: [], devices: [], jumpers: [] }
    expect([0, 390, 619.6, 2000].map((room) => layOutSketch(empty, room).width)).toEqual([360, 390, 620, 940])
  })
  test('nothing stands outside the drawing, and terminals have room for a thumb', () => {
    fc.assert(
      fc.property(sketches, widths, (sketch, room) => {
        const { width, height, devices, splices, wires, cables } = layOutSketch(sketch, room)
        const inside = (x: number, y: number) => x >= 0 && x <= width && y >= 0 && y <= height
        for (const { x, y, wide, terminals } of devices) {
          expect(inside(x, y) && inside(x + wide, y + 150)).toBe(true)
          // WCAG 2.2, 2.5.8 asks for 24 px between targets; a thumb in a glove wants more.
          terminals.forEach((terminal, at) => at && expect(terminal.x - terminals[at - 1]!.x).toBeGreaterThanOrEqual(38))
        }
        for (const { x } of [...splices, ...cables]) expect(inside(x, spliceY)).toBe(true)
        for (const { label, end } of wires) expect(inside(label.x, label.y) && inside(end.x, end.y)).toBe(true)
      }),
    )
  })
  test('each conductor ends where it is connected, once', () => {
    fc.assert(
      fc.property(sketches, widths, (sketch, room) => {
        const { wires, splices, devices } = layOutSketch(sketch, room)
        for (const { conductor, end } of wires) {
          const spliced = splices.some((splice) => splice.letters.includes(conductor.letter))
          const terminal = devices.flatMap(({ terminals }) => terminals).find((one) => one.letters.includes(conductor.letter))
          expect(end.kind).toBe(spliced ? 'splice' : terminal ? 'terminal' : 'loose')
          if (end.kind === 'terminal') expect(end.x).toBe(terminal!.x)
        }
      }),
    )
  })
  test('splices stand apart, in the order of their conductors', () => {
    fc.assert(
      fc.property(sketches, widths, (sketch, room) => {
        const { splices } = layOutSketch(sketch, room)
        splices.forEach(({ x }, index) => index && expect(x - splices[index - 1]!.x).toBeGreaterThan(20))
      }),
    )
  })
  test('several conductors on one terminal are joined by a pigtail; a splice of the box reaches its terminal by one', () => {
    const sketch: Sketch = {
      conductors: ['A', 'B', 'C'].map((letter) => ({ letter, colour: 'black', cable: letter, word: null })),
      splices: [],
      devices: [
        {
          part: 'gang1',
          name: 'Switch',
          note: '',
          chosen: true,
          terminals: [
            { key: 'line', word: 'line', letters: ['A', 'B'], done: false },
            { key: 'load', word: 'load', letters: ['C'], done: false },
          ],
        },
      ],
      jumpers: [],
    }
    const laid = layOutSketch(sketch, 390)
    expect(laid.splices).toMatchObject([{ letters: ['A', 'B'], index: -1 }])
    expect(laid.pigtails.map(({ key }) => key)).toEqual(['gang1 line'])
    expect(laid.wires.map(({ end }) => end.kind)).toEqual(['splice', 'splice', 'terminal'])
  })
  test('the tags of a usual box on a phone do not lie on each other', () => {
    const sketch: Sketch = {
      conductors: 'ABCDEF'.split('').map((letter, at) => ({ letter, colour: 'black', cable: at < 3 ? 'left' : 'right', word: 'neutral' })),
      splices: [['B', 'E']],
      devices: [{ part: 'gang1', name: 'Switch', note: '', chosen: true, terminals: [] }],
      jumpers: [],
    }
    const { wires, tag } = layOutSketch(sketch, 390)
    for (const [index, { label }] of wires.entries())
      for (const { label: other } of wires.slice(0, index))
        expect(Math.abs(label.x - other.x) > tag || Math.abs(label.y - other.y) > tag).toBe(true)
  })
})
