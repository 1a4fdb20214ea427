import type { BoxState, Conductor } from '../site'
import { testModel } from '../testing/scenario'
import { isEarthMarked } from '../units'
import { reportBox } from './box-report'

const conductor = (letter: string, colour: Conductor['colour'], over: Partial<Conductor> = {}): Conductor => ({
  letter,
  colour,
  gaugeAwg: 14,
  areaMm2: null,
  cable: 'one',
  course: 'ends',
  ...over,
})
const box = (over: Partial<BoxState> = {}) =>
  ({
    name: 'door',
    volumeIn3: 18,
    depthMm: null,
    internalClamps: 1,
    conductors: [conductor('A', 'black'), conductor('B', 'white'), conductor('C', 'bare')],
    ...over,
  }) as BoxState

describe('the fit of a recorded box', () => {
  test('two conductors, clamps, grounds and one device: 4 + 2 + 4 + 2 = 12 of 18 in³', () => {
    const report = reportBox(box(), [testModel], 'na120', '2020')
    expect(report).toMatchObject({ kind: 'volume', fill: { totalIn3: 12, freeIn3: 6, fits: true }, assumed: [] })
  })
  test('a gauge that is not recorded counts as 12 AWG and is named', () => {
    const report = reportBox(box({ conductors: [conductor('A', 'black', { gaugeAwg: null })], internalClamps: 0 }), [], 'na120', '2020')
    expect(report).toMatchObject({ kind: 'volume', fill: { totalIn3: 2.25 }, assumed: ['A'] })
  })
  test('the yoke counts by the largest conductor that ends in the box, not by one that runs through', () => {
    const report = reportBox(
      box({ internalClamps: 0, conductors: [conductor('A', 'black'), conductor('B', 'black', { gaugeAwg: 10, course: 'through' })] }),
      [testModel],
      'na120',
      '2020',
    )
    // 14 AWG 2 + through 10 AWG 2.5 + yoke 2 × 2 = 8.5
    expect(report).toMatchObject({ fill: { totalIn3: 8.5 } })
  })
  test('a module takes no yoke; its body is shown beside', () => {
    const report = reportBox(box(), [{ ...testModel, gangsWide: 0, bodyIn3: 2.3 }], 'na120', '2020')
    expect(report).toMatchObject({ fill: { totalIn3: 8, withModulesIn3: 10.3 } })
  })
  test('says what is missing: volume, conductors, depth', () => {
    expect(reportBox(box({ volumeIn3: null }), [], 'na120', '2020')).toMatchObject({
      kind: 'unknown',
      missing: expect.stringMatching(/volume/),
    })
    expect(reportBox(box({ conductors: [] }), [], 'na120', '2020')).toMatchObject({
      kind: 'unknown',
      missing: expect.stringMatching(/conductors/),
    })
    expect(reportBox(box(), [], 'iec230', '2020')).toMatchObject({ kind: 'unknown', missing: expect.stringMatching(/depth/) })
  })
  test('230 V: the deepest device against the back box', () => {
    expect(reportBox(box({ depthMm: 47 }), [testModel, { ...testModel, depthMm: 44 }], 'iec230', '2020')).toMatchObject({
      kind: 'depth',
      fit: { deviceDepthMm: 44, leftMm: 3, fits: false },
    })
  })
})

test('grounds by colour: bare, green, green-yellow (NEC 250.119, IEC 60445)', () => {
  expect((['bare', 'green', 'green-yellow', 'white', 'black'] as const).map((colour) => isEarthMarked(colour))).toEqual([
    true,
    true,
    true,
    false,
    false,
  ])
})
