import fc from 'fast-check'
import { Chance } from '../../chance'
import {
  allInTime,
  leadersFirst,
  causesOf,
  expectedCauses,
  nextSteps,
  observations,
  pairingCauses,
  pairingOrder,
  pairingSteps,
  pairingWindow,
  stepMinutes,
  usualCauses,
  type PairingCase,
  type PairingFacts,
  type Waiting,
} from '.'
import { playPairing } from './testing/stubborn-devices'

const minute = 60_000
const device = (id: string, over: Partial<Waiting> = {}): Waiting => ({
  ...{ id, joins: 2, left: 15, window: 15, restartsAlone: false, breakerId: 'b1' },
  ...over,
})

describe('the window of a device', () => {
  const on = (from: number | null, to = from) => ({ is: 'on', from, to }) as const

  test('burns down from the recorded closing', () => {
    expect(pairingWindow(10, on(0), null, 4 * minute)).toEqual({ is: 'open', from: 0, until: 10 * minute, atMost: 10 * minute })
    expect(pairingWindow(10, on(0), null, 10 * minute)).toEqual({ is: 'over', since: 10 * minute })
  })
  test('is open anew where the device was started anew by itself, and not by what was before the power came', () => {
    expect(pairingWindow(10, on(0), 9 * minute, 12 * minute)).toMatchObject({ is: 'open', until: 19 * minute })
    expect(pairingWindow(10, on(9 * minute), 0, 12 * minute)).toMatchObject({ is: 'open', from: 9 * minute })
  })
  test('of a box with two circuits it is sure by the older closing, and perhaps open by the newer', () => {
    expect(pairingWindow(10, on(0, 6 * minute), null, 12 * minute)).toMatchObject({ is: 'perhaps', atMost: 16 * minute })
    expect(pairingWindow(10, on(null, 6 * minute), null, 7 * minute)).toMatchObject({ is: 'perhaps', atMost: 16 * minute })
  })
  test('without power, without a limit, and where nobody recorded the closing', () => {
    expect(pairingWindow(10, { is: 'off', from: null, to: null }, 0, 1)).toEqual({ is: 'off' })
    expect(pairingWindow(null, on(0), null, 1)).toEqual({ is: 'byGesture' })
    expect(pairingWindow(10, on(null), null, 1)).toEqual({ is: 'unknown', minutes: 10 })
  })
})

describe('which device first', () => {
  it('what listens to another comes after it, while everything stays in time', () => {
    const ids = (...left: number[]) =>
      leadersFirst(
        [device('second', { left: left[0] }), device('other', { left: left[1] }), device('first', { left: left[2] })],
        new Map([['second', 'first']]),
      ).map(({ id }) => id)
    expect(ids(30, 30, 30)).toEqual(['first', 'second', 'other'])
    expect(ids(Infinity, Infinity, Infinity)).toEqual(['first', 'second', 'other'])
    // Its window would close while the one it listens to is joined.
    expect(ids(3, 30, 30)).toEqual(['second', 'other', 'first'])
  })
  test('the earliest deadline, whatever the list says', () => {
    const order = pairingOrder([device('slow', { left: 12 }), device('fast', { left: 3 }), device('last', { left: Infinity })])
    expect(order).toEqual({ now: ['fast', 'slow', 'last'], restarted: [], cycles: [] })
  })
  test('what cannot be in time and starts anew by itself gives way to what needs its breaker', () => {
    const order = pairingOrder([device('alone', { left: 2, restartsAlone: true }), device('breaker', { left: 2 })])
    expect(order).toEqual({ now: ['breaker'], restarted: ['alone'], cycles: [] })
  })
  test('one cycle for all that are behind one breaker and late', () => {
    const late = ['a', 'b', 'c'].map((id) => device(id, { left: 0 }))
    expect(pairingOrder(late).cycles).toEqual([{ breakerId: 'b1', ids: ['a', 'b', 'c'] }])
  })
  test('two cycles where one window is too short for all', () => {
    const late = ['a', 'b', 'c'].map((id) => device(id, { left: 0, joins: 5, window: 10 }))
    expect(pairingOrder(late).cycles).toHaveLength(2)
  })
  test('as many in time as Moore’s method has of a textbook’s example (from memory: Pinedo, “Scheduling”, 3.3.3)', () => {
    const [joins, left] = [
      [7, 8, 4, 6, 6],
      [9, 17, 18, 19, 21],
    ]
    const jobs = joins!.map((minutes, index) => device(`j${index + 1}`, { joins: minutes, left: left![index]!, restartsAlone: true }))
    expect(pairingOrder(jobs).now).toHaveLength(3)
  })

  /** Every order of every set, cycles by trying every division: nothing in common with what is checked. */
  function byTryingAll(devices: Waiting[]): { cycles: number; restarts: number } {
    const divisions = (list: Waiting[]): Waiting[][][] => {
      const [first, ...rest] = list
      if (!first) return [[]]
      return divisions(rest).flatMap((parts) => [
        [[first], ...parts],
        ...parts.map((_, at) => parts.map((part, index) => (index === at ? [first, ...part] : part))),
      ])
    }
    const orders = (list: Waiting[]): Waiting[][] =>
      list.length ? list.flatMap((one) => orders(list.filter((other) => other !== one)).map((rest) => [one, ...rest])) : [[]]
    const works = (list: Waiting[], deadline: (one: Waiting) => number) =>
      orders(list).some((order) => {
        let clock = 0
        return order.every((one) => (clock += one.joins) <= deadline(one))
      })
    let best = { cycles: Infinity, restarts: Infinity }
    for (let set = 0; set < 1 << devices.length; set++) {
      const now = devices.filter((_, index) => set & (1 << index))
      if (!works(now, (one) => one.left)) continue
      const late = devices.filter((one) => !now.includes(one))
      const byBreaker = Object.values(
        late
          .filter((one) => !one.restartsAlone)
          .reduce<Record<string, Waiting[]>>((all, one) => {
            ;(all[one.breakerId ?? ''] ??= []).push(one)
            return all
          }, {}),
      )
      const cycles = byBreaker.reduce(
        (sum, behind) =>
          sum +
          Math.min(
            ...divisions(behind)
              .filter((parts) => parts.every((part) => works(part, (one) => Math.max(one.window, one.joins))))
              .map(({ length }) => length),
          ),
        0,
      )
      const restarts = late.filter((one) => one.restartsAlone).length
      if (cycles < best.cycles || (cycles === best.cycles && restarts < best.restarts)) best = { cycles, restarts }
    }
    return best
  }
  const anyDevice = fc.record({
    joins: fc.integer({ min: 1, max: 6 }),
    left: fc.oneof(fc.integer({ min: -2, max: 15 }), fc.constant(Infinity)),
    window: fc.oneof(fc.integer({ min: 1, max: 15 }), fc.constant(Infinity)),
    restartsAlone: fc.boolean(),
    breakerId: fc.constantFrom('b1', 'b2', null),
  })
  test('never more cycles, nor more started anew, than the best of every way', () => {
    fc.assert(
      fc.property(fc.array(anyDevice, { maxLength: 6 }), (list) => {
        const devices = list.map((one, index) => ({ id: `d${index}`, ...one }))
        const order = pairingOrder(devices)
        const known = new Map(devices.map((one) => [one.id, one]))
        const all = [...order.now, ...order.restarted, ...order.cycles.flatMap(({ ids }) => ids)]
        expect([...all].sort()).toEqual(devices.map(({ id }) => id).sort())
        expect(
          allInTime(
            order.now.map((id) => known.get(id)!),
            (one) => one.left,
          ),
        ).toBe(true)
        for (const { breakerId, ids } of order.cycles)
          for (const id of ids) expect(known.get(id)).toMatchObject({ breakerId, restartsAlone: false })
        expect({ cycles: order.cycles.length, restarts: order.restarted.length }).toEqual(byTryingAll(devices))
      }),
      { numRuns: 150 },
    )
  })
  test('forty devices are put in order too, each once and those of now in time', () => {
    fc.assert(
      fc.property(fc.array(anyDevice, { minLength: 20, maxLength: 40 }), (list) => {
        const devices = list.map((one, index) => ({ id: `d${index}`, ...one }))
        const order = pairingOrder(devices)
        const all = [...order.now, ...order.restarted, ...order.cycles.flatMap(({ ids }) => ids)]
        expect([...all].sort()).toEqual(devices.map(({ id }) => id).sort())
        const now = devices.filter(({ id }) => order.now.includes(id))
        expect(allInTime(now, (one) => one.left)).toBe(true)
      }),
      { numRuns: 25 },
    )
  })
})

const plain: PairingCase = { radio: 'wifi', restartsAlone: true, ownNetwork: true, history: [] }
const facts: PairingFacts = {
  ...{ window: 'open', joinedHere: 0, bands: null, paused: false, isolated: false, boundHere: false, level: null, hubFull: false },
}

describe('what to try next', () => {
  test('nothing seen, nothing tried: band, password and mode come before everything else, another device last (common practice, no source)', () => {
    const order = nextSteps({ ...plain, facts }).map(({ step }) => step)
    expect(order.slice(0, 3).sort()).toEqual(['band', 'gesture', 'password'])
    expect(order.at(-1)).toBe('replace')
    expect(order.indexOf('accessPoint')).toBeLessThan(order.indexOf('closer'))
  })
  test.each([
    ['appPassword', 'password'],
    ['bound', 'reset'],
    ['dark', 'lookAtPower'],
    ['appRegion', 'region'],
  ] as const)('%s leads to %s', (seen, step) => {
    expect(nextSteps({ ...plain, facts, history: [{ seen }] })[0]!.step).toBe(step)
  })
  test('the app finds nothing and the window is over by the clock: it is started anew by itself; a breaker only where it cannot', () => {
    const over: PairingCase = { ...plain, facts: { ...facts, window: 'over' }, history: [{ seen: 'appFindsNothing' }] }
    expect(nextSteps(over)[0]!.step).toBe('restart')
    expect(nextSteps(over).map(({ step }) => step)).not.toContain('powerCycle')
    // Whatever it can do by itself still comes before the breaker.
    const steps = nextSteps({ ...over, restartsAlone: false }).map(({ step }) => step)
    expect(steps.slice(0, 2)).toEqual(['reset', 'powerCycle'])
    expect(steps).not.toContain('restart')
  })
  test('a device that was seen to wait is in its mode: the network is looked at, not the gesture', () => {
    const [first] = nextSteps({ ...plain, facts, history: [{ seen: 'appFindsNothing', waited: true }] })
    expect(first!.step).toBe('band')
    const [unseen] = nextSteps({ ...plain, facts, history: [{ seen: 'appFindsNothing' }] })
    expect(unseen!.step).toBe('gesture')
  })
  test('others joined this network: neither its band nor its password comes first', () => {
    const [first] = nextSteps({ ...plain, facts: { ...facts, joinedHere: 3 } })
    expect(['band', 'password']).not.toContain(first!.step)
  })
  test('a hub’s device is never asked for a band', () => {
    const steps = nextSteps({ ...plain, radio: 'hub' }).map(({ step }) => step)
    expect(steps).not.toContain('band')
    expect(steps).toContain('hub')
  })
  test('the record of three jobs moves the order a little, that of three hundred decides it', () => {
    const share = (n: number) => expectedCauses('wifi', { radio: { hubAway: 0, bound: n }, model: {} }).bound
    expect(share(3)).toBeLessThan(0.2)
    expect(share(300)).toBeGreaterThan(0.85)
    const nothing = expectedCauses('wifi', { radio: {}, model: {} })
    for (const cause of pairingCauses) expect(nothing[cause]).toBeCloseTo(usualCauses('wifi')[cause], 9)
  })
  test('chance for each minute is the order of least expected time: no other order of five steps is quicker (Mitten 1960)', () => {
    // Each step ends one cause only: then the chances do not depend on the order.
    const five = ['band', 'password', 'closer', 'region', 'lookAtPower'] as const
    const ranked = nextSteps({ ...plain, facts: { ...facts, window: 'unknown' } }).filter(({ step }) =>
      (five as readonly string[]).includes(step),
    )
    const expected = (order: typeof ranked) => {
      let [open, sum] = [1, 0]
      for (const { minutes, chance: p } of order) {
        sum += open * minutes
        open -= p
      }
      return sum
    }
    const orders = (list: typeof ranked): (typeof ranked)[] =>
      list.length ? list.flatMap((one) => orders(list.filter((other) => other !== one)).map((rest) => [one, ...rest])) : [[]]
    const best = Math.min(...orders(ranked).map(expected))
    expect(expected(ranked)).toBeCloseTo(best, 9)
  })
  test('whatever was seen and tried: causes sum to one, nothing is tried for ever, and something is always left or all was tried', () => {
    const entry = fc.oneof(
      fc.constantFrom(...observations).map((seen) => ({ seen })),
      fc.constantFrom(...pairingSteps).map((tried) => ({ tried })),
    )
    fc.assert(
      fc.property(
        fc.array(entry, { maxLength: 30 }),
        fc.constantFrom('wifi' as const, 'mesh' as const, 'hub' as const),
        (history, radio) => {
          const causes = causesOf({ ...plain, radio, history })
          expect(pairingCauses.reduce((sum, cause) => sum + causes[cause], 0)).toBeCloseTo(1, 6)
          for (const { step, chance: p } of nextSteps({ ...plain, radio, history })) {
            expect(p).toBeGreaterThanOrEqual(0)
            expect(p).toBeLessThanOrEqual(1)
            expect(stepMinutes[step]).toBeGreaterThan(0)
          }
        },
      ),
    )
  })
})

describe('devices that do not join, each for a reason that nobody sees', () => {
  test('are joined, most of them by the second step, and quicker than by the list on the wall', () => {
    const random = new Chance(16)
    const played = Array.from({ length: 400 }, () => playPairing(random))
    const joined = played.filter(({ rescued }) => rescued)
    expect(joined.length / played.length).toBeGreaterThan(0.9)
    expect(joined.filter(({ steps }) => steps <= 2).length / played.length).toBeGreaterThan(0.6)
    const minutes = (which: 'minutes' | 'byList') => played.reduce((sum, one) => sum + one[which], 0) / played.length
    expect(minutes('minutes')).toBeLessThan(0.75 * minutes('byList'))
  })
})
