import { Chance } from '../../chance'
import {
  alarmsIn,
  baselineOf,
  chooseMonitor,
  cusum,
  driftOf,
  healthyYear,
  readTrace,
  stretchesOf,
  watch,
  type Baseline,
  type Monitor,
  type Reading,
} from './index'

describe('cumulative sums', () => {
  // Montgomery, Introduction to Statistical Quality Control, table 9.1, from memory: mean 10, deviation 1, shifted to 11 after 20.
  const montgomery = [
    ...[9.45, 7.99, 9.29, 11.66, 12.16, 10.18, 8.04, 11.46, 9.2, 10.34, 9.03, 11.47, 10.51, 9.4, 10.08, 9.37, 10.62, 10.31, 8.52, 10.84],
    ...[10.9, 9.33, 12.29, 11.5, 10.6, 11.08, 10.38, 11.62, 11.31, 10.52],
  ]
  test('the textbook’s example: out of control at the 29th sample, shifted since the 23rd', () => {
    expect(cusum(montgomery, 10, 0.5, 5)).toEqual({ at: 28, since: 22, down: false })
    expect(cusum(montgomery.slice(0, 28), 10, 0.5, 5)).toBeNull()
    expect(
      cusum(
        montgomery.map((value) => 20 - value),
        10,
        0.5,
        5,
      ),
    ).toEqual({ at: 28, since: 22, down: true })
  })
  // The same book, table 9.3, from memory: average run lengths with k 0.5 of a deviation.
  test.each([
    [4, 0, 168],
    [5, 0, 465],
    [4, 1, 8.38],
    [5, 1, 10.4],
    [5, 2, 4.01],
  ])(
    'h %s, shifted by %s: the average run length of the book, %s',
    (h, shift, length) => {
      const runs = shift ? 1200 : 500
      let sum = 0
      for (let run = 0; run < runs; run++) {
        const values = normal(run + 1, shift ? 120 : length * 7).map((value) => value + shift)
        sum += (cusum(values, 0, 0.5, h)?.at ?? values.length - 1) + 1
      }
      expect(Math.abs(sum / runs / length - 1)).toBeLessThan(0.1)
    },
    120_000,
  )
})
function normal(seed: number, count: number): number[] {
  const chance = new Chance(seed)
  return Array.from({ length: count }, () => chance.normal())
}

describe('where a trace changes', () => {
  test('as the search over every division finds it', () => {
    for (let seed = 1; seed <= 25; seed++) {
      const chance = new Chance(seed)
      const noise = normal(seed, 60)
      let level = 90
      const watts = noise.map((one) => (chance.is(0.06) ? (level = chance.int(120)) : level) + one * 2)
      const found = stretchesOf(watts, 2)
      expect([seed, found.map(({ to }) => to)]).toEqual([seed, everyDivision(watts)])
    }
  })
  test('on, a start, running, off: each is a stretch, and only what lasts is the normal', () => {
    const noise = normal(3, 400)
    const watts = noise.map((one, index) => (index < 100 || index >= 350 ? 0.4 : index < 102 ? 310 : 95 + one * 1.5))
    const found = baselineOf({ at: watts.map((_, index) => index * 60), watts })
    if (typeof found === 'string') throw new Error(found)
    expect(found.stretches.map(({ from, to }) => [from, to])).toEqual([
      [0, 100],
      [100, 102],
      [102, 350],
      [350, 400],
    ])
    expect(found.baseline).toMatchObject({ every: 60, start: 310, startReadings: 2, readings: 248 })
    expect(Math.abs(found.baseline.watts - 95)).toBeLessThan(0.5)
    expect(Math.abs(found.baseline.spread - 1.5)).toBeLessThan(0.25)
    expect(found.baseline.memory).toBeLessThan(0.2)
  })
  test('what never runs has no normal', () => {
    expect(baselineOf({ at: [0, 1, 2, 3], watts: [0, 0, 0.1, 0] })).toMatch(/Nothing runs/)
  })
})
/** By dynamic programming over all of them, nothing pruned: the same costs, computed anew from the values. */
function everyDivision(watts: readonly number[]): number[] {
  const price = 6 * 2 ** 2 * Math.log(watts.length)
  const error = (from: number, to: number) => {
    const part = watts.slice(from, to)
    const mean = part.reduce((sum, value) => sum + value, 0) / part.length
    return part.reduce((sum, value) => sum + (value - mean) ** 2, 0)
  }
  const best: { cost: number; ends: number[] }[] = [{ cost: -price, ends: [] }]
  for (let to = 1; to <= watts.length; to++)
    best.push(
      Array.from({ length: to }, (_, from) => ({
        cost: best[from]!.cost + error(from, to) + price,
        ends: [...best[from]!.ends, to],
      })).reduce((a, b) => (b.cost < a.cost ? b : a)),
    )
  return best.at(-1)!.ends
}

describe('lines for a motor', () => {
  const motor: Baseline = { watts: 95, spread: 4, memory: 0.5, every: 60, start: 300, startReadings: 0, readings: 5000 }
  /** Each takes seconds to choose, and several tests want the same one. */
  const known = new Map<string, Exclude<ReturnType<typeof chooseMonitor>, string>>()
  const chosen = (baseline: Baseline) => {
    const key = JSON.stringify(baseline)
    const found = known.get(key) ?? chooseMonitor(baseline, 0.5, 1)
    if (typeof found === 'string') throw new Error(found)
    known.set(key, found)
    return found
  }
  test('at most one false alarm in years that it was not chosen by, and the first word within a quarter of an hour', () => {
    for (const spread of [16]) {
      const baseline = { ...motor, spread }
      const { monitor, delay } = chosen(baseline)
      expect(delay).toBeLessThanOrEqual(900)
      const alarms = [11, 12, 13].map((seed) => alarmsIn(healthyYear(baseline, seed), monitor))
      expect(alarms.reduce((sum, one) => sum + one, 0) / alarms.length).toBeLessThanOrEqual(1)
    }
  }, 120_000)
  test('the quieter the motor, the sooner the word; where nothing is quick and quiet enough that is said', () => {
    const delays = [1, 9, 18].map((spread) => chosen({ ...motor, spread }).delay)
    expect(delays).toEqual([...delays].sort((a, b) => a - b))
    expect(delays[0]).toBe(60)
    expect(chooseMonitor({ ...motor, spread: 60, memory: 0.9 }, 0.5, 1)).toMatch(/no line tells/)
    expect(chooseMonitor({ ...motor, every: 1800 }, 0.5, 1)).toMatch(/too seldom/)
  })
  test('a stalled motor is told of after its readings, again each hour, and once that it runs', () => {
    const { monitor, delay } = chosen(motor)
    const healthy = healthyYear(motor, 5)
    const readings = Array.from({ length: 400 }, (_, index): Reading => ({
      at: index * 60,
      on: true,
      watts: index >= 100 && index < 300 ? 20 : healthy[index]!,
    }))
    const alerts = watch(readings, monitor)
    expect(alerts.map(({ at, is, again }) => [at / 60, is, again])).toEqual([
      [100 + delay / 60 - 1, 'low', false],
      [160 + delay / 60 - 1, 'low', true],
      [220 + delay / 60 - 1, 'low', true],
      [280 + delay / 60 - 1, 'low', true],
      [300, 'over', false],
    ])
  })
  test('silent while somebody meant it off, and told of what works too hard', () => {
    const { monitor } = chosen(motor)
    const of = (watts: number, on: boolean) =>
      watch(
        Array.from({ length: 60 }, (_, index) => ({ at: index * 60, watts, on })),
        monitor,
      )
    expect(of(0, false)).toEqual([])
    expect(of(0, true)[0]).toMatchObject({ is: 'low' })
    expect(of(300, true)[0]).toMatchObject({ is: 'high' })
    // Off and on again in between: it begins anew.
    const broken = Array.from({ length: 10 }, (_, index) => ({ at: index, watts: 0, on: index % 2 === 0 }))
    expect(watch(broken, { ...monitor, readings: 2 })).toEqual([])
  })
  test('a start is no fault, however often it starts', () => {
    const { monitor } = chosen({ ...motor, startReadings: 2 })
    const readings = Array.from({ length: 300 }, (_, index): Reading => {
      const turn = index % 60
      return { at: index * 60, on: turn < 50, watts: turn < 2 ? 310 : turn < 50 ? 95 : 0 }
    })
    expect(watch(readings, monitor)).toEqual([])
  })
  describe('a motor that rests by itself, by a float or a thermostat', () => {
    /** Runs and rests in turn, minutes each; a reading every ten seconds. */
    const resting = (runs: number, rests: number, times: number) => {
      const noise = normal(11, times * (runs + rests) * 6)
      const watts = noise.map((one, index) => (index % ((runs + rests) * 6) < runs * 6 ? 61 + one : 0.2))
      return { at: watts.map((_, index) => index * 10), watts }
    }
    const normalOf = (trace: ReturnType<typeof resting>) => {
      const found = baselineOf(trace)
      if (typeof found === 'string') throw new Error(found)
      return found
    }
    const worked = (trace: ReturnType<typeof resting>) => {
      const found = normalOf(trace)
      return { ...found, chosen: chooseMonitor(found.baseline, 0.5, 1, found.rests.byItself ? found.rests.longest : 0) }
    }
    test('its rests are no faults, and a stop that lasts is one', () => {
      const trace = resting(12, 5, 8)
      const { rests, chosen } = worked(trace)
      expect(rests).toEqual({ count: 7, longest: 300, byItself: true })
      if (typeof chosen === 'string') throw new Error(chosen)
      expect(chosen.delay).toBeGreaterThan(300)
      expect(chosen.delay).toBeLessThanOrEqual(900)
      const readings = trace.at.map((at, index) => ({ at, watts: trace.watts[index]!, on: true }))
      expect(watch(readings, chosen.monitor)).toEqual([])
      const stopped = readings.map((one, index) => (index > 400 ? { ...one, watts: 0 } : one))
      expect(watch(stopped, chosen.monitor)[0]).toMatchObject({ is: 'low' })
    })
    test('rests that are longer than the first word may wait: said, and nothing is promised', () => {
      expect(worked(resting(12, 11, 6)).chosen).toMatch(/^It stands still by itself for up to 11 minutes: .*airflow/)
    })
    test('switched off once or twice while it was read is a hand', () => {
      expect(normalOf(resting(20, 5, 2)).rests).toMatchObject({ count: 1, byItself: false })
      expect(normalOf(resting(20, 5, 3)).rests).toMatchObject({ count: 2, byItself: false })
    })
  })
  test('a slow change is told with the hour since when; none where there is none', () => {
    const healthy = healthyYear(motor, 9)
    const trace = (change: (index: number) => number) => ({
      at: Array.from({ length: 2880 }, (_, index) => index * 60),
      watts: Array.from({ length: 2880 }, (_, index) => healthy[index]! + change(index)),
    })
    expect(
      driftOf(
        trace(() => 0),
        motor,
      ),
    ).toBeNull()
    const found = driftOf(
      trace((index) => (index > 1440 ? -9 : 0)),
      motor,
    )!
    expect(Math.abs(found.since / 60 - 1440)).toBeLessThan(60)
    expect(Math.abs(found.watts - 86)).toBeLessThan(2)
  })
  test('tried on the bench with seconds: the same words, a thousand times sooner', () => {
    const bench: Monitor = { low: 50, high: 140, readings: 2, every: 1, repeat: 10 }
    const alerts = watch(
      Array.from({ length: 25 }, (_, index) => ({ at: index, watts: index < 3 ? 95 : 0, on: true })),
      bench,
    )
    expect(alerts.map(({ at, again }) => [at, again])).toEqual([
      [4, false],
      [14, true],
      [24, true],
    ])
  })
})

describe('a table of power', () => {
  const rows = (count: number) =>
    Array.from({ length: count }, (_, index) => `2026-11-28T10:${String(index % 60).padStart(2, '0')}:00Z,${90 + (index % 3)}`)
  test('by its heads, in any order of lines', () => {
    const read = readTrace(['Time,Watts', ...rows(40).reverse()].join('\n'))
    if (typeof read === 'string') throw new Error(read)
    expect(read.trace.at).toEqual([...read.trace.at].sort((a, b) => a - b))
    expect(read).toMatchObject({ left: 0 })
    const seconds = readTrace(['timestamp;power', ...Array.from({ length: 30 }, (_, index) => `${1_760_000_000 + index};90,5`)].join('\n'))
    expect(seconds).toMatchObject({ trace: { watts: expect.arrayContaining([90.5]) as number[] } })
    const milliseconds = readTrace(
      ['timestamp,w', ...Array.from({ length: 30 }, (_, index) => `${(1_760_000_000 + index) * 1000},90`)].join('\n'),
    )
    expect(milliseconds).toMatchObject({ trace: { at: expect.arrayContaining([1_760_000_029]) as number[] } })
  })
  test('a clamp that sits the wrong way around is told', () => {
    const turned = Array.from({ length: 60 }, (_, index) => `${1_700_000_000 + index},${-40 - (index % 3)}`)
    expect(readTrace(['time,watts', ...turned].join('\n'))).toMatch(/wrong way around/)
  })
  test('nonsense has a sentence, and what cannot be read is counted', () => {
    expect(readTrace('a,b\n1,2')).toMatch(/needs a column/)
    expect(readTrace('time,watts\nnow,1')).toMatch(/Only 0 readings/)
    expect(readTrace(`time,watts\n${'1760000000,1\n'.repeat(50_001)}`)).toMatch(/more than 50000/)
    expect(readTrace(['time,watts', ...rows(40), 'soon,90', '2026-11-28T11:00:00Z,', '2026-11-28T11:01:00Z,-5'].join('\n'))).toMatchObject({
      left: 3,
    })
  })
})
