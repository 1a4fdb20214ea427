import { cumulativeStdNormalProbability, probit } from 'simple-statistics'
import { changesBetween, manyDays, searchPlan, timePlan, whyLeftOut, windowsFor, type DayProblem } from '.'
import { randomDay } from '../testing/days'

/** One crew and two visits at its own door, so that only work takes time. */
const twoInARow = (to: number): DayProblem => {
  const { crews, visits, ...rest } = randomDay(1, { crews: 1, visits: 2, pairs: 0 })
  return {
    ...rest,
    crews: [{ ...crews[0]!, rest: null, licensed: true, people: 1, skills: [], from: 0, to: 20_000, latest: 1e9 }],
    visits: visits.map((visit, index) => ({
      ...visit,
      place: 0,
      seconds: 3600,
      from: 0,
      to: index ? to : 1e9,
      hard: false,
      people: 1,
      licence: false,
      skills: [],
      partsWith: null,
      promised: null,
    })),
  }
}

describe('on many days', () => {
  it('lateness and quantiles are those of the lognormal distribution', () => {
    const sigma = 0.4
    const to = 4200
    const day = twoInARow(to)
    const { visits, crews } = manyDays(day, [[0, 1]], { runs: 8_000, seed: 3, spread: () => sigma, roads: 0 })
    const mu = Math.log(3600) - sigma ** 2 / 2
    const second = visits[1]!
    expect(second.late).toBeCloseTo(1 - cumulativeStdNormalProbability((Math.log(to) - mu) / sigma), 1)
    expect(Math.abs(second.usual / Math.exp(mu) - 1)).toBeLessThan(0.03)
    expect(Math.abs(second.four / Math.exp(mu + sigma * probit(0.8)) - 1)).toBeLessThan(0.03)
    expect(second.short).toBeCloseTo(Math.max(0, second.four - to), 6)
    expect(visits[0]).toEqual({ late: 0, usual: 0, four: 0, short: 0 })
    expect(crews[0]!.overtime).toBe(0)
  })
  it('without any spread each day is the plan', () => {
    const problem = randomDay(8, { crews: 4, visits: 12, strange: true })
    const plan = searchPlan(problem, { seed: 1, rounds: 30 })
    const { visits } = manyDays(problem, plan.routes, { runs: 3, spread: () => 0, roads: 0 })
    for (const { stops } of plan.crews) for (const { visit, start } of stops) expect(visits[visit]!.four).toBeCloseTo(start, 3)
    for (const visit of plan.leftOut) expect(visits[visit]).toBeNull()
  })
})

describe('while the telephone rings', () => {
  const windows = [0, 1, 2, 3].map((index) => ({ from: index * 7200, to: (index + 1) * 7200 }))
  it.each([1, 2, 3, 4, 5, 6, 7, 8])(
    'day %i: three windows at most, cheapest first, each as cheap as trying every place by hand',
    (seed) => {
      const whole = randomDay(seed, { crews: 4, visits: 11, strange: seed % 2 === 0 })
      const problem = { ...whole, visits: whole.visits.slice(0, 10) }
      const visit = { ...whole.visits[10]!, pinned: null, promised: null }
      const plan = searchPlan(problem, { seed, rounds: 30 })
      const offers = windowsFor(problem, plan.routes, visit, windows)
      expect(offers.length).toBeLessThanOrEqual(3)
      const placed = plan.cost - plan.leftOut.reduce((sum, one) => sum + problem.visits[one]!.leftOut, 0)
      const byHand = windows
        .map((window) => {
          const asked = { ...problem, visits: [...problem.visits, { ...visit, ...window, hard: true }] }
          const able = (crews: number[]) =>
            (!visit.licence || crews.some((crew) => problem.crews[crew]!.licensed)) &&
            visit.skills.every((skill) => crews.some((crew) => problem.crews[crew]!.skills.includes(skill))) &&
            crews.reduce((sum, crew) => sum + problem.crews[crew]!.people, 0) >= visit.people
          const tries: number[][][] = []
          const single = plan.routes.some((_, crew) => able([crew]))
          plan.routes.forEach((route, a) => {
            for (let here = 0; here <= route.length; here++) {
              const one = plan.routes.map((other, crew) => (crew === a ? other.toSpliced(here, 0, 10) : other))
              if (able([a])) tries.push(one)
              else if (visit.people > 1 && !single)
                plan.routes.forEach((other, b) => {
                  if (b > a && able([a, b]))
                    for (let there = 0; there <= other.length; there++) tries.push(one.with(b, other.toSpliced(there, 0, 10)))
                })
            }
          })
          const costs = tries.map((routes) => timePlan(asked, routes)).map((timed) => (timed ? timed.cost : Infinity))
          const out = plan.leftOut.reduce((sum, one) => sum + problem.visits[one]!.leftOut, 0)
          return Math.min(Infinity, ...costs) - out - placed
        })
        .filter(Number.isFinite)
        .sort((a, b) => a - b)
      expect(offers.map(({ cost }) => cost.toFixed(4))).toEqual(byHand.slice(0, 3).map((cost) => cost.toFixed(4)))
      for (const { start, from, to } of offers) {
        expect(start).toBeGreaterThanOrEqual(from)
        expect(start).toBeLessThanOrEqual(to)
      }
    },
  )
})

describe('what another plan changes', () => {
  const problem = randomDay(31, { crews: 3, visits: 9, pairs: 0 })
  const plan = searchPlan(problem, { seed: 1, rounds: 60 })
  it('nothing against itself', () => expect(changesBetween(problem, plan, plan)).toEqual([]))
  it('a crew that is ill: whoever gets its visits is named, and each promise that breaks', () => {
    const ill = plan.routes.findIndex((route) => route.length > 1)
    const without = { ...problem, crews: problem.crews.map((crew, index) => (index === ill ? { ...crew, to: 1, latest: 1 } : crew)) }
    const after = searchPlan(without, { seed: 1, rounds: 60, warm: plan.routes })
    const changes = changesBetween(problem, plan, after)
    for (const visit of plan.routes[ill]!) expect(changes.map((change) => change.visit)).toContain(visit)
    for (const { visit, to, from, breaksPromise } of changes)
      expect(breaksPromise).toBe(
        (from?.start ?? Infinity) <= problem.visits[visit]!.to && (to?.start ?? Infinity) > problem.visits[visit]!.to,
      )
  })
})

describe('why nobody goes', () => {
  const base = twoInARow(1e9)
  const [first, other] = base.visits
  const told = (change: Partial<typeof first>, crew: Partial<(typeof base.crews)[number]> = {}) => {
    const problem = { ...base, crews: [{ ...base.crews[0]!, ...crew }], visits: [{ ...first!, ...change }, other!] }
    return whyLeftOut(problem, timePlan(problem, [[1]])!, 0)
  }
  it('names what is lacking', () => {
    expect(told({ licence: true }, { licensed: false })).toEqual({ why: 'licence' })
    expect(told({ skills: ['boilers'] })).toEqual({ why: 'skills' })
    expect(told({ people: 2 })).toEqual({ why: 'people' })
    expect(told({ pinned: [] })).toEqual({ why: 'pinned' })
  })
  it('or by how much the nearest is late, or that it costs more than it is worth, or that the day is full', () => {
    // The only crew comes back to its door at the earliest when its shift begins, half an hour after the window.
    expect(told({ hard: true, to: 1800 }, { from: 3600 })).toEqual({ why: 'late', crew: 0, seconds: 1800 })
    expect(told({ leftOut: 0 })).toMatchObject({ why: 'dear', crew: 0 })
    expect(told({ seconds: 3600 }, { to: 5000, latest: 5000 })).toEqual({ why: 'full' })
  })
})
