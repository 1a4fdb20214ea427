import fc from 'fast-check'
import { awgSizes } from '../units'
import { boxFill, metalBoxVolumesIn3, volumePerConductorIn3, type BoxFillInput, type FillConductor } from './box-fill'

const conductor = (gaugeAwg: FillConductor['gaugeAwg'], ground = false, passage: FillConductor['passage'] = 'ends'): FillConductor => ({
  gaugeAwg,
  ground,
  passage,
})
const times = (count: number, make: () => FillConductor) => Array.from({ length: count }, make)
const box = (input: Partial<BoxFillInput>): BoxFillInput => ({
  volumeIn3: 18,
  edition: '2020',
  conductors: [],
  internalClamps: 0,
  supportFittings: 0,
  yokes: [],
  terminalBlocks: [],
  connectorBodiesIn3: 0,
  deviceBodiesIn3: 0,
  yokelessModulesIn3: 0,
  ...input,
})

describe('box fill, worked by hand from NEC table 314.16(B) and 314.16(B)(1) to (6)', () => {
  test('the volume table itself (NEC table 314.16(B)(1))', () => {
    expect(volumePerConductorIn3).toEqual({ 18: 1.5, 16: 1.75, 14: 2, 12: 2.25, 10: 2.5, 8: 3, 6: 5 })
    expect(metalBoxVolumesIn3.map((entry) => entry.volumeIn3)).toEqual([12.5, 14, 18, 18, 21, 30.3])
  })

  test('1: one switch, two 14/2 cables with ground: 4 conductors + clamps + yoke + grounds = 8 + 2 + 4 + 2 = 16', () => {
    const fill = boxFill(
      box({
        conductors: [...times(4, () => conductor(14)), ...times(2, () => conductor(14, true))],
        internalClamps: 1,
        yokes: [{ gangsWide: 1, gaugeAwg: 14 }],
      }),
    )
    expect(fill.totalIn3).toBe(16)
    expect(fill.fits).toBe(true)
    expect(fill.freeIn3).toBe(2)
  })

  test('2: mixed gauges: three 12 and two 14, clamps by the largest, yoke by its own 14, ground 12 = 6.75 + 4 + 2.25 + 4 + 2.25 = 19.25', () => {
    const fill = boxFill(
      box({
        conductors: [...times(3, () => conductor(12)), ...times(2, () => conductor(14)), conductor(12, true)],
        internalClamps: 2,
        yokes: [{ gangsWide: 1, gaugeAwg: 14 }],
      }),
    )
    expect(fill.totalIn3).toBe(19.25)
    expect(fill.fits).toBe(false)
  })

  test('3: device two gangs wide counts two allowances per gang: 6 × 2 + clamps 2 + 4 × 2 + grounds 2 = 24', () => {
    const fill = boxFill(
      box({
        volumeIn3: 25,
        conductors: [...times(6, () => conductor(14)), ...times(3, () => conductor(14, true))],
        internalClamps: 1,
        yokes: [{ gangsWide: 2, gaugeAwg: 14 }],
      }),
    )
    expect(fill.totalIn3).toBe(24)
  })

  test('4: looped conductor counts twice, through conductor once: loop 12 = 4.5, through 12 = 2.25, two ends 12 = 4.5, yoke 4.5 = 15.75', () => {
    const fill = boxFill(
      box({
        conductors: [conductor(12, false, 'loop'), conductor(12, false, 'through'), conductor(12), conductor(12)],
        yokes: [{ gangsWide: 1, gaugeAwg: 12 }],
      }),
    )
    expect(fill.totalIn3).toBe(15.75)
  })

  test('5: six grounds, 2020 rule: four together 2.25, two further a quarter each 1.125: with four 12s 9 + yoke 4.5 = 16.875', () => {
    const fill = boxFill(
      box({
        conductors: [...times(4, () => conductor(12)), ...times(6, () => conductor(12, true))],
        yokes: [{ gangsWide: 1, gaugeAwg: 12 }],
      }),
    )
    expect(fill.totalIn3).toBe(16.875)
  })

  test('6: the same six grounds, rule before 2020: all together one: 9 + 4.5 + 2.25 = 15.75', () => {
    const fill = boxFill(
      box({
        edition: '2017',
        conductors: [...times(4, () => conductor(12)), ...times(6, () => conductor(12, true))],
        yokes: [{ gangsWide: 1, gaugeAwg: 12 }],
      }),
    )
    expect(fill.totalIn3).toBe(15.75)
  })

  test('7: largest ground decides its allowance: grounds 14, 14, 10 count 2.5; two 10s 5 = 7.5', () => {
    expect(
      boxFill(box({ conductors: [...times(2, () => conductor(10)), conductor(14, true), conductor(14, true), conductor(10, true)] }))
        .totalIn3,
    ).toBe(7.5)
  })

  test('8: two kinds of support fitting and a terminal block (2023 only): 2 × 2 + 2 × 2 + 2 = 10, before 2023: 8', () => {
    const input = { conductors: times(2, () => conductor(14)), supportFittings: 2, terminalBlocks: [14 as const] }
    expect(boxFill(box({ ...input, edition: '2023' })).totalIn3).toBe(10)
    expect(boxFill(box({ ...input, edition: '2020' })).totalIn3).toBe(8)
  })

  test('10: 4 in square × 1½ with an extension of the same, 21 + 21: eight 12s 18 + clamps 2.25 + two yokes 9 + grounds 2.25 = 31.5', () => {
    const yoke = { gangsWide: 1, gaugeAwg: 12 as const }
    const conductors = [...times(8, () => conductor(12)), ...times(4, () => conductor(12, true))]
    const at = (volumeIn3: number) => boxFill(box({ volumeIn3, conductors, internalClamps: 2, yokes: [yoke, yoke] }))
    expect([at(42).totalIn3, at(42).fits, at(21).fits]).toEqual([31.5, true, false])
  })

  test('11: two yokes of other gauges, each by its own largest: two 10s 5 + two 14s 4 + 10s yoke 5 + 14s yoke 4 = 18', () => {
    const yokes = [
      { gangsWide: 1, gaugeAwg: 10 as const },
      { gangsWide: 1, gaugeAwg: 14 as const },
    ]
    expect(boxFill(box({ conductors: [...times(2, () => conductor(10)), ...times(2, () => conductor(14))], yokes })).totalIn3).toBe(18)
  })

  test('12: a wide device beside a loop: loop 14 4 + two 14s 4 + device two gangs wide 8 + stud 2 = 18: exactly full', () => {
    const fill = boxFill(
      box({
        conductors: [conductor(14, false, 'loop'), ...times(2, () => conductor(14))],
        yokes: [{ gangsWide: 2, gaugeAwg: 14 }],
        supportFittings: 1,
      }),
    )
    expect([fill.totalIn3, fill.fits, fill.freeIn3]).toEqual([18, true, 0])
  })

  test('13: nine grounds under both rules: four together 2 and five quarters 2.5 (2020), all together 2 (2017)', () => {
    const grounds = times(9, () => conductor(14, true))
    expect((['2020', '2023', '2017'] as const).map((edition) => boxFill(box({ conductors: grounds, edition })).totalIn3)).toEqual([
      4.5, 4.5, 2,
    ])
  })

  test('9: a module without a yoke: both readings are shown, the fill without it and with its body', () => {
    const fill = boxFill(box({ conductors: times(4, () => conductor(14)), yokelessModulesIn3: 2.3, deviceBodiesIn3: 2.3 }))
    expect([fill.totalIn3, fill.withModulesIn3]).toEqual([8, 10.3])
    expect(fill.realRoomIn3).toBeCloseTo(18 - 8 - 2.3)
  })
})

const anyConductor = fc.record({
  gaugeAwg: fc.constantFrom(...awgSizes),
  ground: fc.boolean(),
  passage: fc.constantFrom('ends' as const, 'through' as const, 'loop' as const),
})

test('properties: one conductor more never makes the fill smaller; the sum is the sum of its lines', () => {
  fc.assert(
    fc.property(
      fc.array(anyConductor, { maxLength: 14 }),
      anyConductor,
      fc.constantFrom('2017' as const, '2020' as const, '2023' as const),
      (conductors, extra, edition) => {
        const before = boxFill(box({ conductors, edition, internalClamps: 1 }))
        const after = boxFill(box({ conductors: [...conductors, extra], edition, internalClamps: 1 }))
        expect(after.totalIn3).toBeGreaterThanOrEqual(before.totalIn3)
        expect(after.totalIn3).toBeCloseTo(
          after.lines.reduce((sum, line) => sum + line.totalIn3, 0),
          6,
        )
      },
    ),
    { seed: 31416 },
  )
})
