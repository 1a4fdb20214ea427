import { crew, Scenario, testModel } from '../testing/scenario'
import { judgeAtGang } from '../job'
import type { DeviceModel } from './device-schema'
import { fasteningWords, judgeTermination } from './terminations'
import { groundWays } from './missing-ground'
import { circuitLoad, judgeInRow, neighboursOf, wattsInRow } from './row-limits'
import { arePartners, partnersOf } from './partners'

const clamp = {
  kind: 'clamp' as const,
  thinnestAwg: 16,
  thickestAwg: 12,
  thinnestMm2: 0.75,
  thickestMm2: 2.5,
  stranded: false,
  holds: 1,
  stripMm: 11,
  torqueNm: 1.4,
}
const awg = (gaugeAwg: number, stranded = false) => ({ gaugeAwg, areaMm2: null, stranded })
const led = (lamps: number, wattsEach: number) => ({ technology: 'led' as const, lamps, wattsEach, dimmable: true })

describe('terminals', () => {
  test.each([
    ['a 14 goes in', [awg(14)], []],
    ['a 10 does not: AWG counts down', [awg(10)], [/10 AWG does not go into its terminal/]],
    ['an 18 is too thin', [awg(18)], [/18 AWG is thinner/]],
    ['stranded wants a solid pigtail', [awg(14, true)], [/solid conductors/]],
    ['fat and stranded is said once', [awg(10, true)], [/10 AWG stranded does not go/]],
    ['two on one', [awg(14), awg(14)], [/holds 1, here are 2/]],
    [
      '4 mm² does not, 1.5 does',
      [
        { gaugeAwg: null, areaMm2: 4, stranded: false },
        { gaugeAwg: null, areaMm2: 1.5, stranded: false },
      ],
      [/4 mm² does not go/, /holds 1/],
    ],
    ['tinned ends are cut', [{ ...awg(14), tinned: true }], [/tinned end off/]],
  ] as const)('%s', (_, conductors, said) => {
    const remarks = judgeTermination(clamp, [...conductors])
    expect(remarks).toHaveLength(said.length)
    said.forEach((one, index) => expect(remarks[index]!.text).toMatch(one))
  })
  test('leads take any conductor: the connector’s listing decides; a torque is said with its rule (NEC 110.14(D))', () => {
    expect(judgeTermination({ ...clamp, kind: 'leads' }, [awg(10, true), awg(14)])).toEqual([])
    expect(fasteningWords(null)).toBe('Bottomed, under the clamp, no copper showing; tug it.')
    expect(fasteningWords(clamp)).toMatch(/1\.4 N·m by hand, no power driver \(NEC 110\.14\(D\)\)/)
    expect(fasteningWords({ ...clamp, kind: 'leads' })).toMatch(/connector listed for both/)
  })
})

describe('a missing ground (NEC 404.9(B), from memory)', () => {
  const at = (over: object) =>
    groundWays('na120', 'none', { plate: null, protection: [], metalBox: false, ...over })!.filter(({ ready }) => ready)
  test('nothing is missing where one is, or nobody looked', () => {
    expect(groundWays('na120', 'conductor', { plate: null, protection: [], metalBox: false })).toBeNull()
    expect(groundWays('na120', null, { plate: null, protection: [], metalBox: false })).toBeNull()
  })
  test('a plate without metal, or a ground-fault device on every feed; a metal plate opens no way', () => {
    expect(at({ plate: 'standard' })).toHaveLength(1)
    expect(at({ plate: 'metal' })).toEqual([])
    expect(at({ protection: ['rcd', 'none'] })).toEqual([])
    expect(at({ protection: ['rcd', 'both'] })).toHaveLength(1)
    expect(at({ protection: ['afci'] })).toEqual([])
  })
})

describe('limits in the very place of the row', () => {
  const dimmer: DeviceModel = {
    ...testModel,
    kind: 'dimmer',
    maxWatts: { ...testModel.maxWatts, filament: 600 },
    besideOne: 500 / 600,
    betweenTwo: 400 / 600,
  }
  test('600 W alone, 500 beside one, 400 between two (from memory, one maker’s usual steps)', () => {
    expect(([0, 1, 2] as const).map((beside) => wattsInRow(dimmer, 'filament', beside))).toEqual([600, 500, 400])
    const load = { technology: 'filament' as const, lamps: 5, wattsEach: 90, dimmable: true }
    expect(([0, 1, 2] as const).map((beside) => judgeInRow(dimmer, [load], beside, 120).map(({ severity }) => severity))).toEqual([
      [],
      [],
      ['block'],
    ])
  })
  test('only devices with a yoke take fins: modules and old switches do not', () => {
    expect(neighboursOf({ 1: { gangsWide: 1 }, 3: { gangsWide: 0 } }, 2)).toBe(1)
    expect(neighboursOf({ 1: { gangsWide: 1 }, 3: { gangsWide: 2 } }, 2)).toBe(2)
    expect(neighboursOf({}, 1)).toBe(0)
  })
  test('two points of 100 W on a model for 150 W are refused; each alone would pass', () => {
    const scenario = new Scenario()
    const model = { ...testModel, maxWatts: { ...testModel.maxWatts, led: 150 } }
    const point = (name: string) => ({ ...scenario.point(name), load: led(1, 100) })
    const box = scenario.box('stair')
    const judged = (points: ReturnType<typeof point>[]) =>
      judgeAtGang(scenario.job, scenario.site, box, 1, model, points).filter(({ severity }) => severity === 'block')
    expect(judged([point('Stair light')])).toEqual([])
    expect(judged([point('Stair light'), point('Door light')])[0]!.text).toMatch(/200 W together/)
  })
  test('continuous loads count 125 % (NEC 210.20(A)): 16 A of 20 pass, 16.1 do not; 230 V: Ib ≤ In (IEC 60364-4-43)', () => {
    const one = (watts: number, continuous: boolean) => ({
      technology: 'led' as const,
      lamps: 1,
      wattsEach: watts,
      dimmable: false,
      continuous,
    })
    expect(circuitLoad([one(16 * 120, true)], { breakerAmps: 20, nominalVolts: 120 })).toMatchObject({ counted: 20, fits: true })
    expect(circuitLoad([one(16.1 * 120, true)], { breakerAmps: 20, nominalVolts: 120 }).fits).toBe(false)
    expect(circuitLoad([one(19 * 120, false)], { breakerAmps: 20, nominalVolts: 120 }).fits).toBe(true)
    expect(circuitLoad([one(10 * 230, true)], { breakerAmps: 10, nominalVolts: 230 })).toMatchObject({ amps: 10, fits: true })
  })
})

describe('partners', () => {
  const companion: DeviceModel = { ...testModel, name: 'companion', kind: 'companion', terminals: ['sense', 'neutral'], family: 'tide' }
  const main: DeviceModel = { ...testModel, name: 'main', kind: 'dimmer', terminals: ['line', 'load', 'neutral', 'sense'], family: 'tide' }
  test('one family, and an input for a wired companion', () => {
    expect(arePartners(companion, main)).toBe(true)
    expect(arePartners(companion, { ...main, family: 'ebb' })).toBe(false)
    expect(arePartners(companion, { ...main, terminals: ['line', 'load'] })).toBe(false)
    expect(arePartners({ ...companion, terminals: ['neutral'] }, { ...main, terminals: ['line', 'load'] })).toBe(true)
    expect(arePartners(companion, companion)).toBe(false)
    expect(partnersOf(companion, [main, { ...main, name: 'other', family: 'ebb' }]).map(({ name }) => name)).toEqual(['main'])
  })
  test('a companion is refused where what is chosen at the other location does not listen', () => {
    const scenario = new Scenario()
    const [door, stair] = [scenario.box('door').id, scenario.box('stair').id]
    const controls = [
      { boxId: door, gang: 1 },
      { boxId: stair, gang: 2 },
    ]
    scenario.must(scenario.submitJob({ type: 'recordPoint', point: { ...scenario.point('Door light'), controls } }))
    const multi = { ...testModel, multiWay: 'commonTravelers' as const }
    const pointIds = [scenario.point('Door light').id]
    scenario.must(
      scenario.submitJob({ type: 'chooseDevice', boxId: door, gang: 1, modelId: multi.id, pointIds }, crew.ann, { model: () => multi }),
    )
    const choose = (model: DeviceModel) =>
      scenario.submitJob({ type: 'chooseDevice', boxId: stair, gang: 2, modelId: model.id, pointIds: [] }, crew.ann, { model: () => model })
    const id = '01890000-0000-7000-a000-000000000002'
    expect(choose({ ...companion, id, family: '', multiWay: 'companion' })).toMatchObject({
      ok: false,
      refusal: { code: 'deviceUnfit', reasons: [expect.stringMatching(/no switch input/)] },
    })
    expect(choose({ ...companion, id, family: '', terminals: ['neutral'], multiWay: 'companion' }).ok).toBe(true)
  })
})

test('what the survey saw counts at the bench: no neutral, no ground, stranded cable', () => {
  const scenario = new Scenario()
  const box = scenario.box('door')
  const cables = [{ gaugeAwg: 10 as const, areaMm2: null, colours: ['black' as const, 'white' as const], stranded: true }]
  scenario.must(
    scenario.submitSite({ type: 'noteBox', boxId: box.id, noted: { neutral: 'none', ground: 'none', cables, plate: 'standard' } }),
  )
  const said = judgeAtGang(scenario.job, scenario.site, scenario.box('door'), 1, { ...testModel, termination: clamp }, [
    scenario.point('Door light'),
  ]).map(({ text }) => text)
  expect(said.join('\n')).toMatch(/needs a neutral/)
  expect(said.join('\n')).toMatch(/may go with a plate and screws without metal/)
  expect(said.join('\n')).toMatch(/10 AWG stranded does not go/)
})
