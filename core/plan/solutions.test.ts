import loadHighs from 'highs'
import { Scenario } from '../testing/scenario'
import { alternativesFor, differenceOf, leaned, objection, solutionKinds, summaryOf, waysOf, weightsOf, type HomeWays } from './index'
import { greedyPlan } from './greedy'
import { optimise } from './optimise'
import { callbacksOf, usualCallbacks } from './minutes'
import { models, sourceOf } from './testing/invented-list'
import { wideHome } from './testing/wide-home'

const note = (scenario: Scenario, name: string, noted: object) =>
  scenario.must(scenario.submitSite({ type: 'noteBox', boxId: scenario.box(name).id, noted: { looked: 'inside', ...noted } }))
const old = (gang: number, is: string) => ({ gang, is, holds: null, onWhen: null, keep: null })
const of = (ways: HomeWays, pointId: string, kind: string) =>
  ways.problem.solutions.filter((one) => one.kind === kind && one.pointIds.includes(pointId))
const why = (ways: HomeWays, pointId: string, kind: string) =>
  ways.excluded.find((one) => one.kind === kind && one.pointIds.includes(pointId))?.why ?? ''
const wish = (scenario: Scenario, name: string, change: object) =>
  scenario.must(
    scenario.submitJob({
      type: 'wishPoint',
      pointId: scenario.point(name).id,
      wish: { stays: null, noLamps: false, cheapNow: false, colour: null, ...change },
    }),
  )
const single = (scenario: Scenario) => scenario.point('Door light')

test('every point and kind of solution is either open or says why not', () => {
  const seen = new Set<string>()
  for (const neutral of ['here', 'none'] as const) {
    const scenario = wideHome(neutral)
    const ways = waysOf(sourceOf(scenario))
    expect(ways.problem.pointIds).toEqual(scenario.job.pointOrder)
    for (const pointId of scenario.job.pointOrder)
      for (const kind of solutionKinds) {
        const open = of(ways, pointId, kind).length > 0
        expect([kind, open || why(ways, pointId, kind).length > 10]).toEqual([kind, true])
        expect([kind, open && why(ways, pointId, kind) !== '']).toEqual([kind, false])
        if (open) seen.add(kind)
      }
  }
  // A new neutral is for when walls are open.
  expect(solutionKinds.filter((kind) => !seen.has(kind))).toEqual(['pullNeutral'])
})

test('no neutral: what needs one is shut and says what would change it; a device without one is open, with its hub', () => {
  const scenario = wideHome('none')
  const { id } = single(scenario)
  const ways = waysOf(sourceOf(scenario))
  expect(of(ways, id, 'withNeutral')).toEqual([])
  expect(why(ways, id, 'withNeutral')).toMatch(/No neutral in .*door: one would have to be pulled/)
  expect(of(ways, id, 'noNeutral')[0]).toMatchObject({ onHub: { 'hub:Birch': 1 } })
  expect(why(ways, id, 'pullNeutral')).toMatch(/during a renovation/)
  const open = waysOf(sourceOf(scenario, { household: { guests: false, plainControls: false, renovating: true, worksWith: '', years: 8 } }))
  expect(of(open, id, 'pullNeutral').length).toBeGreaterThan(0)
})

test('below its minimum load a device without neutral is shut; several places want one that hears, or a battery companion', () => {
  const scenario = wideHome('none')
  const light = scenario.point('Fan light')
  scenario.must(scenario.submitJob({ type: 'recordPoint', point: { ...light, load: { ...light.load, wattsEach: 4 } } }))
  const ways = waysOf(sourceOf(scenario))
  expect(why(ways, light.id, 'noNeutral')).toMatch(/4 W is below its minimum load of 10 W/)
  const { id } = scenario.point('Long hall')
  expect(why(ways, id, 'noNeutral')).toMatch(/2 places/)
  const lit = waysOf(sourceOf(wideHome()))
  expect(of(lit, id, 'withNeutral').some(({ devices }) => devices.length === 2)).toBe(true)
  expect(of(lit, id, 'batteryCompanion').length).toBeGreaterThan(0)
})

test('two points of one box: a module or a device for both takes both, a fan and a lamp one gang and a blank', () => {
  const scenario = wideHome()
  const ways = waysOf(sourceOf(scenario))
  const [fan, light] = [scenario.point('Fan').id, scenario.point('Fan light').id]
  const [both] = of(ways, fan, 'fanAndLight')
  expect([...both!.pointIds].sort()).toEqual([fan, light].sort())
  expect(ways.told[both!.id]!.leaves.join()).toMatch(/stays empty behind a blank/)
  expect(of(ways, scenario.point('Left').id, 'channelModule').some(({ pointIds }) => pointIds.length === 2)).toBe(true)
  expect(of(ways, scenario.point('Vault motor').id, 'meteringRelay')[0]!.comfort).toBeGreaterThan(90)
})

test('a neutral that nobody saw is built on only where it is likely, and said so', () => {
  const scenario = new Scenario()
  const { id: pointId } = single(scenario)
  const recent = waysOf(sourceOf(scenario, { known: { yearBuilt: 2015, alike: null } }))
  expect(recent.told[of(recent, pointId, 'withNeutral')[0]!.id]!.because.join()).toMatch(/% likely, not seen/)
  const ancient = waysOf(sourceOf(scenario, { known: { yearBuilt: 1930, alike: null } }))
  expect(of(ancient, pointId, 'withNeutral')).toEqual([])
  expect(why(ancient, pointId, 'withNeutral')).toMatch(/opening it would tell/)
})

test('wishes: what is to stay a dimmer stays one, an old switch stays on the wall, no lamps where none are wanted', () => {
  const scenario = wideHome()
  const point = single(scenario)
  wish(scenario, point.name, { stays: 'old', noLamps: true })
  const kept = waysOf(sourceOf(scenario))
  expect(of(kept, point.id, 'withNeutral')).toEqual([])
  expect(why(kept, point.id, 'withNeutral')).toMatch(/old switch is to stay/)
  expect(why(kept, point.id, 'smartLamps')).toMatch(/No smart lamps are wanted/)
  expect(of(kept, point.id, 'channelModule').length).toBeGreaterThan(0)
  wish(scenario, point.name, { stays: 'dimmer' })
  const dimming = waysOf(sourceOf(scenario))
  const kinds = new Map(Object.values(models).map((one) => [one.id, one.kind]))
  for (const one of of(dimming, point.id, 'withNeutral')) expect(one.devices.map(({ modelId }) => kinds.get(modelId))).toContain('dimmer')
})

test('a smart lamp does not go behind a dimmer; a colour that is wanted decides between lamps', () => {
  const scenario = wideHome()
  const point = single(scenario)
  const lamps = () => of(waysOf(sourceOf(scenario)), point.id, 'smartLamps')
  expect(lamps().length).toBeGreaterThan(0)
  wish(scenario, point.name, { colour: 'changing' })
  expect(lamps()).toHaveLength(1)
  const control = point.controls[0]!
  const box = scenario.site.boxes[control.boxId]!
  note(scenario, box.name, { old: [old(control.gang, 'dimmer')] })
  expect(lamps()).toEqual([])
  expect(why(waysOf(sourceOf(scenario)), point.id, 'smartLamps')).toMatch(/does not go behind one/)
})

test('lists in another order give the same ways: what the screen found the server finds too', () => {
  const scenario = wideHome()
  const source = sourceOf(scenario)
  const turned = {
    ...source,
    catalogue: source.catalogue.toReversed(),
    articles: source.articles.toReversed(),
    parts: source.parts.toReversed(),
  }
  expect(waysOf(turned).problem.solutions.map(({ id }) => id)).toEqual(waysOf(source).problem.solutions.map(({ id }) => id))
})

test('two breakers in one box: no device joins two circuits, and a neutral has to be of its own', () => {
  const scenario = wideHome()
  const [left, right] = [scenario.point('Left').id, scenario.point('Right').id]
  const joint = (ways: HomeWays) => ways.problem.solutions.filter(({ pointIds }) => pointIds.includes(left) && pointIds.includes(right))
  expect(joint(waysOf(sourceOf(scenario))).length).toBeGreaterThan(0)
  const { id: boxId } = scenario.box('pair')
  const breakerIds = ['1', '2'].map((number) => scenario.breaker(number).id)
  scenario.must(scenario.submitSite({ type: 'setFeeds', boxId, breakerIds, unknownFeed: false, basis: 'tracing' } as never))
  const ways = waysOf(sourceOf(scenario))
  expect(joint(ways)).toEqual([])
  expect(ways.told[of(ways, left, 'withNeutral')[0]!.id]!.because.join()).toMatch(/2 feeds: the neutral has to be of its own circuit/)
})

test('a promised integration counts for nothing until it was tried by us, and says the day', () => {
  const scenario = wideHome()
  const { id } = single(scenario)
  const household = { guests: false, plainControls: false, renovating: false, worksWith: 'Lantern Home', years: 8 }
  const told = (works: { with: string; triedOn: string | null }[]) => {
    const source = sourceOf(scenario, { household })
    const ways = waysOf({ ...source, articles: source.articles.map((one) => ({ ...one, works })) })
    const [way] = of(ways, id, 'withNeutral')
    return { comfort: way!.comfort, ...ways.told[way!.id]! }
  }
  const none = told([])
  const promised = told([{ with: 'lantern home', triedOn: null }])
  const tried = told([{ with: 'Lantern Home', triedOn: '2026-03-02' }])
  expect(none.loses.join()).toMatch(/Lantern Home: it does not join it/)
  expect(promised.loses.join()).toMatch(/promises it, and we have not tried it/)
  expect(tried.because.join()).toMatch(/tried by us, on 2026-03-02/)
  expect(tried.comfort).toBeGreaterThan(promised.comfort)
  expect(promised.comfort).toBeGreaterThan(none.comfort)
})

test('what has no price is in no plan, and says so', () => {
  const scenario = wideHome()
  const { id: pointId } = single(scenario)
  const all = sourceOf(scenario)
  const ways = waysOf({ ...all, articles: all.articles.map((one) => (one.kind === 'device' ? { ...one, priceCents: null } : one)) })
  expect(of(ways, pointId, 'withNeutral')).toEqual([])
  expect(why(ways, pointId, 'withNeutral')).toMatch(/has no price on the branch’s list/)
})

test('too full a box takes nothing on the wall; where room is short two bodies shut each other out', () => {
  const scenario = wideHome()
  const { id } = single(scenario)
  note(scenario, 'door', { volumeIn3: 8 })
  expect(why(waysOf(sourceOf(scenario)), id, 'withNeutral')).toMatch(/too full as it is \(NEC 314\.16\)/)
  const [left, right] = [scenario.point('Left').id, scenario.point('Right').id]
  const tight = (volumeIn3: number) => {
    note(scenario, 'pair', { volumeIn3 })
    const { problem } = waysOf(sourceOf(scenario))
    const module = (pointId: string) => problem.solutions.find((one) => one.kind === 'channelModule' && one.pointIds.join() === pointId)
    const rest = problem.solutions.filter(({ kind, pointIds }) => kind === 'leave' && ![left, right].includes(pointIds[0]!))
    const both = [module(left), module(right)].flatMap((one) => one ?? [])
    return both.length < 2 ? both.length : objection(problem, [...rest, ...both])
  }
  expect(tight(60)).toBeNull()
  // Four 14 AWG conductors, grounds and a clamp take 12 in³, two yokes 8: 3 in³ are left for two modules of 2 in³.
  expect(tight(23)).toBe('limit')
})

test('a plan of every school keeps every limit; alternatives and differences say what would change', async () => {
  const highs = await loadHighs()
  const scenario = wideHome()
  const ways = waysOf(sourceOf(scenario))
  for (const school of ['switches', 'lamps', 'hubDimmers', 'fixtureRelays', 'leastMoney', 'mostComfort'] as const) {
    const problem = leaned(ways.problem, weightsOf(school, 8))
    expect(objection(problem, greedyPlan(problem))).toBeNull()
    const { chosen } = optimise(highs, problem)
    expect(objection(problem, chosen)).toBeNull()
    for (const pointId of problem.pointIds)
      for (const other of alternativesFor(problem, chosen, pointId)) {
        expect(other.weighed).toBeGreaterThan(-1)
        expect(other.solution.pointIds).toContain(pointId)
      }
    expect(differenceOf(chosen, chosen)).toEqual([])
    const { offline } = summaryOf(problem, chosen, ways.told)
    expect(offline.wall + offline.remote + offline.nothing).toBe(problem.pointIds.length)
  }
})

test('a school of relays or of lamps leans so far that its plan shows it', async () => {
  const highs = await loadHighs()
  const ways = waysOf(sourceOf(wideHome()))
  const kindsOf = (school: Parameters<typeof weightsOf>[0]) =>
    optimise(highs, leaned(ways.problem, weightsOf(school, 8))).chosen.map(({ kind }) => kind)
  expect(kindsOf('fixtureRelays')).toContain('relayAtFixture')
  expect(kindsOf('lamps').filter((kind) => kind === 'smartLamps').length).toBeGreaterThan(
    kindsOf('switches').filter((kind) => kind === 'smartLamps').length,
  )
})

test('a model’s record: three jobs do not make a judgement, three hundred do', () => {
  expect(callbacksOf(undefined)).toBeCloseTo(usualCallbacks, 6)
  expect(callbacksOf({ callbacks: 1, deviceYears: 0.5 })).toBeLessThan(0.13)
  expect(callbacksOf({ callbacks: 90, deviceYears: 300 })).toBeGreaterThan(0.25)
})
