import { Chance } from '../chance'
import { modelInsights, type ModelLives } from './devices'
import { beyondChance, priorOf, shareOf, shrunk, sureAbove } from './rates'
import { risenSince } from './risen'
import { hazards, survivalAt, survivalOf, type Life } from './survival'

const life = (days: number, failed = true): Life => ({ days, failed, count: 1 })

/**
 * Weeks of remission of two arms of 21 patients each: Freireich and others, The effect of 6-mercaptopurine on the duration of
 * steroid-induced remissions in acute leukemia, Blood 21 (1963); survival as it is worked out in Kleinbaum and Klein, Survival
 * Analysis, chapter 2. From memory.
 */
const treated = [6, 6, 6, 7, 10, 13, 16, 22, 23].map((week) => life(week))
const treatedStill = [6, 9, 10, 11, 17, 19, 20, 25, 32, 32, 34, 35].map((week) => life(week, false))
const placebo = [1, 1, 2, 2, 3, 4, 4, 5, 5, 8, 8, 8, 8, 11, 11, 12, 12, 15, 17, 22, 23].map((week) => life(week))

describe('product limit', () => {
  const rounded = (lives: Life[]) => survivalOf(lives).map(({ day, survival }) => [day, Number(survival.toFixed(4))])
  test('the published example: survival at each time of an event, both arms', () => {
    expect(rounded([...treated, ...treatedStill])).toEqual([
      [6, 0.8571],
      [7, 0.8067],
      [10, 0.7529],
      [13, 0.6902],
      [16, 0.6275],
      [22, 0.5378],
      [23, 0.4482],
    ])
    expect(rounded(placebo)).toEqual([
      ...[
        [1, 0.9048],
        [2, 0.8095],
        [3, 0.7619],
        [4, 0.6667],
        [5, 0.5714],
        [8, 0.381],
      ],
      ...[
        [11, 0.2857],
        [12, 0.1905],
        [15, 0.1429],
        [17, 0.0952],
        [22, 0.0476],
        [23, 0],
      ],
    ])
  })
  test('limits at 23 weeks: standard error 0.135 by Greenwood, and 0.188 to 0.680 on the scale of log(−log)', () => {
    const last = survivalOf([...treated, ...treatedStill]).at(-1)!
    expect(last.low).toBeCloseTo(0.188, 2)
    expect(last.high).toBeCloseTo(0.68, 2)
    // All that failed: between nothing and nothing.
    expect(survivalOf(placebo).at(-1)).toMatchObject({ low: 0, high: 0 })
  })
  test('the same by counts, and in any order', () => {
    const together = [...treated, ...treatedStill].reduce<Life[]>((all, { days, failed }) => {
      const known = all.find((one) => one.days === days && one.failed === failed)
      if (known) known.count++
      else all.unshift(life(days, failed))
      return all
    }, [])
    expect(survivalOf(together)).toEqual(survivalOf([...treated, ...treatedStill]))
    expect(survivalOf([])).toEqual([])
  })
  test('nobody says anything of a day that nobody has seen', () => {
    const young = [life(30, false), life(10, false)]
    expect(survivalAt(survivalOf(young), young, 365)).toBeNull()
    expect(survivalAt(survivalOf(young), young, 30)).toEqual({ survival: 1, low: 1, high: 1 })
  })
  test('failures by their span, each against the days that were lived in it', () => {
    const found = hazards([life(0), life(1, false), { days: 100, failed: true, count: 3 }])
    expect(found.first).toEqual({ failed: 1, days: 0.5 + 1.5 + 6 })
    expect(found.month).toEqual({ failed: 0, days: 84 })
    expect(found.year).toEqual({ failed: 3, days: 3 * 70.5 })
    expect(found.later).toEqual({ failed: 0, days: 0 })
  })
})

describe('rates that brand nobody', () => {
  test('asthma deaths: 3 in 200,000 with a gamma of 3 and 5 before give a gamma of 6 and 7 (Bayesian Data Analysis, chapter 2; from memory)', () => {
    const after = shrunk({ count: 3, exposure: 2 }, { shape: 3, exposure: 5 })
    expect(after.rate).toBeCloseTo(6 / 7, 10)
    expect(sureAbove({ count: 3, exposure: 2 }, { shape: 3, exposure: 5 }, 1)).toBeCloseTo(0.3, 1)
    // Ten years of such data: 30 in 20, and the density is centred at 1.32.
    expect(shrunk({ count: 30, exposure: 20 }, { shape: 3, exposure: 5 }).rate).toBeCloseTo(1.32, 2)
  })
  test('exact Poisson limits: 5 are expected, and 14 are more than two in a thousand make', () => {
    // P(X ≥ 13 | 5) = 0.0020, P(X ≥ 14 | 5) = 0.0007: tables of the Poisson distribution.
    expect([12, 13, 14].map((count) => beyondChance({ count, exposure: 5 }, 1))).toEqual([null, null, 'more'])
    // P(0 | 6.9) = 0.0010.
    expect([6, 7].map((exposure) => beyondChance({ count: 0, exposure }, 1))).toEqual([null, 'fewer'])
    expect(beyondChance({ count: 0, exposure: 0 }, 1)).toBeNull()
  })
  test('what scatters no more than chance is drawn together; what does is left where it is', () => {
    const none = { count: 0, exposure: 0 }
    const alike = [4, 6, 5, 5].map((count) => ({ count, exposure: 10 }))
    expect(shrunk(alike[1]!, priorOf(alike, none)).rate).toBeLessThan(0.57)
    const apart = [1, 40, 2, 1].map((count) => ({ count, exposure: 10 }))
    expect(shrunk(apart[1]!, priorOf(apart, none)).rate).toBeGreaterThan(3)
    // Two bad days.
    expect(shrunk({ count: 2, exposure: 0.02 }, priorOf(alike, none)).rate).toBeLessThan(0.8)
    expect(priorOf([], { count: 1, exposure: 50 }).exposure).toBeGreaterThan(0)
    expect(shrunk({ count: 0, exposure: 0 }, priorOf([{ count: 0, exposure: 9 }], { count: 1, exposure: 50 })).rate).toBeGreaterThan(0)
  })
  test('a share of few says little', () => {
    const [few, many] = [shareOf(3, 3), shareOf(300, 300)]
    expect([few.rate, few.high]).toEqual([1, 1])
    expect(few.low).toBeLessThan(0.65)
    expect(many.low).toBeGreaterThan(0.99)
    expect(shareOf(0, 0)).toMatchObject({ rate: 0, low: 0, high: 1 })
  })
})

/** A company with models whose failures are known: each device fails on a day by the rates of its model, or is watched until today. */
function company(seed: number, models: { model: string; devices: number; atOnce: number; aYear: number }[]): ModelLives[] {
  const chance = new Chance(seed)
  return models.map(({ model, devices, atOnce, aYear }) => {
    const lives: Life[] = []
    for (let device = 0; device < devices; device++) {
      const watched = chance.int(1000)
      const fails = chance.is(atOnce) ? chance.int(2) : Math.floor((-Math.log(1 - chance.next()) / aYear) * 365.25)
      lives.push(life(Math.min(fails, watched), fails < watched))
    }
    return { model, inWall: lives.filter(({ failed }) => !failed).length, lives }
  })
}
describe('models of a company', () => {
  const plain = Array.from({ length: 12 }, (_, index) => ({
    model: `plain ${index}`,
    devices: 20 + index * 40,
    atOnce: 0.001,
    aYear: 0.02,
  }))
  const bad = { model: 'bad', devices: 200, atOnce: 0.001, aYear: 0.15 }
  const young = { model: 'young', devices: 250, atOnce: 0.05, aYear: 0.02 }
  test('one that fails more is found, one that fails early is watched, and no other is accused, in nineteen of twenty companies', () => {
    let [found, watched, accused] = [0, 0, 0]
    for (let seed = 1; seed <= 40; seed++) {
      const all = modelInsights(company(seed, [...plain, bad, young]))
      const of = (model: string) => all.find((one) => one.model === model)!
      if (of('bad').advice?.what === 'stopBuying' && of('bad').beyond === 'more') found++
      if (of('young').advice !== null) watched++
      accused += all.filter(({ model, advice }) => advice && model.startsWith('plain')).length
    }
    expect(found).toBeGreaterThanOrEqual(38)
    expect(watched).toBeGreaterThanOrEqual(36)
    // Of 480 models that are as all are.
    expect(accused).toBeLessThanOrEqual(4)
  })
  test('limits hold nine of ten true rates', () => {
    let [inside, all] = [0, 0]
    for (let seed = 1; seed <= 30; seed++)
      for (const { model, perHundred } of modelInsights(
        company(
          seed,
          plain.map((one, index) => ({ ...one, atOnce: 0, aYear: 0.01 + index * 0.004 })),
        ),
      )) {
        const truth = 100 * (0.01 + Number(model.slice(6)) * 0.004)
        all++
        if (truth >= perHundred.low && truth <= perHundred.high) inside++
      }
    expect(inside / all).toBeGreaterThan(0.85)
  })
  test('a company of two weeks with one early failure: no model of it is said to fail more often than it has devices', () => {
    const young = (model: string, count: number, days: number, failedAfter: number[] = []): ModelLives => ({
      model,
      inWall: count,
      lives: [{ days, failed: false, count }, ...failedAfter.map((day) => life(day))],
    })
    for (const models of [
      [young('one', 14, 9, [3]), young('two', 1, 3), young('three', 1, 0)],
      [young('one', 1, 0, [0]), young('two', 200, 1)],
      [young('one', 3, 5, [0, 1]), young('two', 40, 30), young('three', 5, 700)],
    ])
      for (const { perHundred, expected, inWall } of modelInsights(models)) {
        expect(perHundred.low).toBeLessThan(perHundred.rate)
        expect(perHundred.high).toBeGreaterThan(perHundred.rate)
        expect(expected).toBeLessThan(inWall)
        expect(perHundred.rate).toBeLessThan(40)
      }
  })
  test('an empty company, one device, and one that all failed', () => {
    expect(modelInsights([])).toEqual([])
    expect(modelInsights([{ model: 'one', inWall: 1, lives: [life(3, false)] }])).toMatchObject([{ failed: 0, advice: null, beyond: null }])
    const [all] = modelInsights([{ model: 'x', inWall: 0, lives: [{ days: 0, failed: true, count: 4 }] }])
    expect(all).toMatchObject({ failed: 4, first: 4, expected: 0, afterYear: null })
    expect(Number.isFinite(all!.perHundred.high)).toBe(true)
    // Three weeks old, and nothing has failed: nobody is told to expect more than is usual.
    const young = modelInsights([{ model: 'new', inWall: 18, lives: [{ days: 2, failed: false, count: 18 }] }])
    expect(young[0]!.perHundred.rate).toBeLessThan(2.1)
    expect(young[0]!.expected).toBeLessThan(0.4)
  })
})

describe('callbacks, month by month', () => {
  const months = (rate: (index: number) => number, seed: number) => {
    const chance = new Chance(seed)
    // Poisson, by the times between.
    const poisson = (mean: number) => {
      let [count, left] = [0, mean]
      for (left += Math.log(1 - chance.next()); left > 0; left += Math.log(1 - chance.next())) count++
      return count
    }
    return Array.from({ length: 24 }, (_, index) => ({
      month: `${2025 + Math.floor(index / 12)}-${String((index % 12) + 1).padStart(2, '0')}`,
      handedOver: 30,
      callbacks: poisson(rate(index)),
    }))
  }
  const share = (rate: (index: number) => number) =>
    Array.from({ length: 200 }, (_, seed) => risenSince(months(rate, seed + 1))).filter(Boolean).length / 200
  test('where nothing changed, one company in twenty at most is told something; where they doubled, nearly every one', () => {
    expect(share(() => 4)).toBeLessThan(0.05)
    expect(share((index) => (index < 14 ? 6 : 14))).toBeGreaterThan(0.9)
    // Fewer are no alarm.
    expect(share((index) => (index < 14 ? 14 : 5))).toBeLessThan(0.02)
  })
  test('the month since which is near the one in which it was', () => {
    const found = Array.from({ length: 60 }, (_, seed) => risenSince(months((index) => (index < 14 ? 6 : 16), seed + 1))!).filter(Boolean)
    // The fifteenth month is March.
    expect(found.filter((month) => month >= '2026-01' && month <= '2026-05').length / found.length).toBeGreaterThan(0.75)
  })
  test('a young company, and one with few callbacks, is told nothing', () => {
    expect(risenSince([])).toBeNull()
    expect(risenSince(months(() => 6, 1).slice(0, 6))).toBeNull()
    expect(risenSince(months(() => 0.2, 1))).toBeNull()
  })
})
