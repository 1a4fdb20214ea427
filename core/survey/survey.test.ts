import { Scenario, testModel } from '../testing/scenario'
import { likeBox, neutralPrior, nextBreakerNumber, pointNameFor, unknownsOf, usualCables, verdictOn, worthOpening } from './index'

const cable = (label: string) => usualCables.na120.find((one) => one.label === label)!.cable
const note = (scenario: Scenario, name: string, noted: object) =>
  scenario.must(scenario.submitSite({ type: 'noteBox', boxId: scenario.box(name).id, noted: { looked: 'inside', ...noted } }))
const verdict = (scenario: Scenario, name: string, yearBuilt: number | null = 1980) =>
  verdictOn(scenario.job, scenario.site, scenario.box(name), { edition: '2020', known: { yearBuilt, alike: null } })
const old = (gang: number) => ({ gang, is: 'switch' as const, holds: null, onWhen: null, keep: null })

describe('what is unknown', () => {
  test('each thing once, until somebody has looked, at the desk or at the bench', () => {
    const scenario = new Scenario()
    const left = (name: string) => unknownsOf(scenario.job, scenario.site, scenario.box(name))
    expect(left('door')).toEqual(['old', 'cables', 'neutral', 'ground'])
    expect(left('attic')).toEqual(['old', 'load', 'feed', 'cables', 'neutral', 'ground'])
    note(scenario, 'door', { old: [old(1)], cables: [cable('14/2')], neutral: 'none' })
    expect(left('door')).toEqual(['ground'])
    note(scenario, 'attic', { old: [{ ...old(1), is: 'blank' }] })
    expect(left('attic')).not.toContain('load')
  })
})

describe('the verdict', () => {
  test('a usual box: two 14/2 and one device: 8 + clamps 2 + yoke 4 + grounds 2 = 16 of 18 in³ (NEC 314.16(B))', () => {
    const scenario = new Scenario()
    note(scenario, 'door', { cables: [cable('14/2'), cable('14/2')], neutral: 'here' })
    expect(verdict(scenario, 'door')).toMatchObject({ kind: 'fits', sentence: 'Neutral seen; 16 of 18 in³ used.' })
    note(scenario, 'door', { cables: [cable('14/2'), cable('14/2'), cable('12/2')] })
    expect(verdict(scenario, 'door').kind).toBe('no')
  })
  test('the device that is chosen counts, and a blank gang carries none', () => {
    const scenario = new Scenario()
    note(scenario, 'stair', { cables: [cable('14/2')], neutral: 'here', old: [old(1), { ...old(2), is: 'blank' }] })
    // 4 + clamps 2 + one yoke 4 + ground 2
    expect(verdict(scenario, 'stair').sentence).toContain('12 of 34 in³')
    scenario.must(
      scenario.submitJob({
        type: 'chooseDevice',
        boxId: scenario.box('stair').id,
        gang: 1,
        modelId: testModel.id,
        pointIds: [scenario.point('Stair light').id],
      }),
    )
    expect(verdict(scenario, 'stair').sentence).toContain('12 of 34 in³')
  })
  test('without a neutral, with one behind the next device, without a size: said, with what would change it', () => {
    const scenario = new Scenario()
    note(scenario, 'door', { neutral: 'none' })
    expect(verdict(scenario, 'door')).toMatchObject({ kind: 'likely', changes: 'Not known yet: its cables.' })
    note(scenario, 'door', { neutral: 'behindNeighbour', cables: [cable('14/3')] })
    expect(verdict(scenario, 'door')).toMatchObject({ kind: 'fits', sentence: expect.stringMatching(/comes out too/) })
  })
})

describe('a neutral nobody has looked for', () => {
  test('by the year; then by what was found in this home', () => {
    const scenario = new Scenario()
    const chance = (year: number | null) => neutralPrior(scenario.site, { yearBuilt: year, alike: null }, scenario.box('door').id).chance
    expect(chance(2015)).toBeGreaterThan(chance(1985))
    expect(chance(1985)).toBeGreaterThan(chance(1950))
    note(scenario, 'stair', { neutral: 'none' })
    note(scenario, 'attic', { neutral: 'none' })
    expect(chance(2015)).toBeLessThan(0.45)
    expect(neutralPrior(scenario.site, { yearBuilt: 2015, alike: null }, scenario.box('door').id)).toMatchObject({ seen: 0, of: 2 })
  })
  test('homes of the same builder tell more than the year, and less than boxes opened here; a mobile home has few', () => {
    const scenario = new Scenario()
    const alike = (neutrals: number, by: 'builder' | 'street' = 'builder') => ({ by, homes: 2, neutrals, opened: 8 })
    const chance = (known: Parameters<typeof neutralPrior>[1]) => neutralPrior(scenario.site, known, scenario.box('door').id).chance
    const plain = chance({ yearBuilt: 1985, alike: null })
    expect(chance({ yearBuilt: 1985, alike: alike(0) })).toBeLessThan(plain - 0.3)
    expect(chance({ yearBuilt: 1985, alike: alike(0, 'street') })).toBeGreaterThan(chance({ yearBuilt: 1985, alike: alike(0) }))
    expect(
      verdictOn(scenario.job, scenario.site, scenario.box('door'), { edition: '2020', known: { yearBuilt: 1985, alike: alike(1) } })
        .sentence,
    ).toMatch(/1 of 8 had one in 2 homes of this builder/)
    for (const name of ['stair', 'attic']) note(scenario, name, { neutral: 'here' })
    expect(chance({ yearBuilt: 1985, alike: alike(0) })).toBeGreaterThan(chance({ yearBuilt: 1985, alike: null }) - 0.6)
    scenario.must(scenario.submitSite({ type: 'describeHome', housing: 'mobile' }))
    expect(chance({ yearBuilt: 2015, alike: null })).toBeLessThan(0.9)
  })
  test('it is never certain', () => {
    const scenario = new Scenario()
    for (const name of ['stair', 'attic']) note(scenario, name, { neutral: 'here' })
    const { chance } = neutralPrior(scenario.site, { yearBuilt: 2020, alike: null }, scenario.box('door').id)
    expect(chance).toBeLessThan(1)
    expect(verdict(scenario, 'door', 2020)).toMatchObject({ kind: 'open', sentence: expect.stringMatching(/2 of 2 opened here/) })
  })
})

test('free ends under 6 in are said with the rule (NEC 300.14), longer ones are not', () => {
  const scenario = new Scenario()
  note(scenario, 'door', { neutral: 'here', freeLengthMm: 102 })
  expect(verdict(scenario, 'door').sentence).toMatch(/Free ends of 102 mm, under the 6 in of NEC 300.14/)
  note(scenario, 'door', { freeLengthMm: 152 })
  expect(verdict(scenario, 'door').sentence).not.toMatch(/Free ends/)
})

test('worth opening: most in doubt and most hanging on it first; a second box on the same circuit tells less; nothing where all is known', () => {
  const scenario = new Scenario()
  const worth = () => worthOpening(scenario.job, scenario.site, { yearBuilt: 1968, alike: null }).map(({ box }) => box.name)
  expect(worth()[0]).toBe('door')
  for (const name of ['door', 'stair', 'attic'])
    note(scenario, name, { neutral: 'none', ground: 'none', cables: [cable('14/2')], volumeIn3: 18 })
  expect(worth()).toEqual([])
})

test('like another box: what is seen is taken over, gang by gang, and nothing that is measured', () => {
  const scenario = new Scenario()
  note(scenario, 'door', {
    neutral: 'here',
    cables: [cable('14/2')],
    old: [old(1)],
    volumeIn3: 20.3,
    faults: [{ is: 'scorched', then: 'open' }],
  })
  const [door, stair, attic] = ['door', 'stair', 'attic'].map((name) => scenario.box(name)) as [never, never, never]
  expect(likeBox(scenario.site, door, attic)).toMatchObject({ neutral: 'here', volumeIn3: 20.3, cables: [cable('14/2')] })
  expect(likeBox(scenario.site, door, stair)).not.toHaveProperty('cables')
  expect(likeBox(scenario.site, door, attic)).not.toHaveProperty('faults')
})

test('names that one taps: taken ones are left out, points are told apart, breakers count on', () => {
  const scenario = new Scenario()
  const points = scenario.job.pointOrder.map((id) => scenario.job.points[id]!)
  expect(pointNameFor(scenario.site, points, scenario.box('door'), 1, 'light')).toBe('Hall light')
  const taken = [...points, { ...points[0]!, name: 'Hall light' }]
  expect(pointNameFor(scenario.site, taken, scenario.box('door'), 1, 'light')).toBe('Hall door light')
  expect(nextBreakerNumber(scenario.site, Object.keys(scenario.site.panels)[0]!)).toBe('4')
})

test('what was taken over from another box was not seen in this one, and is no find for a third', () => {
  const scenario = new Scenario()
  note(scenario, 'door', { neutral: 'here', cables: [cable('14/2')] })
  const { door, attic } = { door: scenario.box('door'), attic: scenario.box('attic') }
  scenario.must(scenario.submitSite({ type: 'noteBox', boxId: attic.id, noted: likeBox(scenario.site, door, attic) }))
  expect(verdict(scenario, 'attic')).toMatchObject({
    kind: 'likely',
    sentence: expect.stringMatching(/taken to be there, as in another box/),
  })
  expect(neutralPrior(scenario.site, { yearBuilt: 1980, alike: null }, scenario.box('stair').id)).toMatchObject({ seen: 1, of: 1 })
})

test('a fixture has its neutral, a junction takes no device: neither asks for what it cannot lack', () => {
  const scenario = new Scenario()
  note(scenario, 'attic', { kind: 'fixture' })
  const left = () => unknownsOf(scenario.job, scenario.site, scenario.box('attic'))
  expect(left()).not.toContain('neutral')
  expect(verdict(scenario, 'attic')).toMatchObject({ kind: 'likely', sentence: expect.stringMatching(/its neutral is here/) })
  note(scenario, 'attic', { kind: 'junction' })
  expect(left()).toEqual(['feed', 'cables'])
  note(scenario, 'attic', { kind: 'fixture', neutral: 'here' })
  expect(neutralPrior(scenario.site, { yearBuilt: 1980, alike: null }, scenario.box('door').id)).toMatchObject({ of: 0 })
})
