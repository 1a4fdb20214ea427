import fc from 'fast-check'
import { Chance } from '../../chance'
import { crew, Scenario, testFile } from '../../testing/scenario'
import {
  circuitsOff,
  costOfVisit,
  doorChecks,
  doorVerdict,
  enoughUntil,
  orderOfVisit,
  playVisit,
  workOfVisit,
  type VisitBox,
  type VisitWork,
} from '.'

const box = (id: string, breakers: string[], over: Partial<VisitBox> = {}): VisitBox => ({
  ...{ id, minutes: 30, breakers, mates: [], after: 5, dark: false, roomId: id },
  ...over,
})
const work = (boxes: VisitBox[], over: Partial<VisitWork> = {}): VisitWork => ({ boxes, people: 1, darkAt: null, ...over })
const ids = (given: VisitWork, order: readonly number[]) => order.map((index) => given.boxes[index]!.id).join(' ')

function randomWork(chance: Chance, boxes: number): VisitWork {
  const names = Array.from({ length: boxes }, (_, index) => `box ${index}`)
  return {
    people: 1 + chance.int(2),
    darkAt: chance.int(2) ? 60 + chance.int(240) : null,
    boxes: names.map((id, index) => ({
      id,
      minutes: 10 + chance.int(50),
      breakers: [...new Set(Array.from({ length: 1 + chance.int(2) }, () => String(1 + chance.int(4))))],
      mates: index % 3 === 1 ? [names[index - 1]!] : [],
      after: chance.int(12),
      dark: chance.int(3) === 0,
      roomId: `room ${chance.int(4)}`,
    })),
  }
}

test('a played visit: each box once, nobody in two places, a circuit off from before its first box until after its last, joining with power', () => {
  fc.assert(
    fc.property(fc.integer(), fc.integer({ min: 0, max: 9 }), (seed, count) => {
      const chance = new Chance(seed)
      const given = randomWork(chance, count)
      const order = given.boxes.map((_, index) => index).sort(() => chance.int(3) - 1)
      const { steps, after, offs, end } = playVisit(given, order)
      expect(steps.map((step) => step.box)).toEqual(order)
      const busy = [...steps, ...after]
      for (const one of busy)
        for (const other of busy)
          if (one !== other && one.person === other.person) expect(one.to <= other.from + 1e-9 || other.to <= one.from + 1e-9).toBe(true)
      expect(new Set(offs.map(({ breaker }) => breaker)).size).toBe(offs.length)
      const off = new Map(offs.map((one) => [one.breaker, one]))
      for (const step of steps)
        for (const breaker of given.boxes[step.box]!.breakers) {
          expect(off.get(breaker)!.from).toBeLessThanOrEqual(step.from)
          expect(off.get(breaker)!.to).toBeGreaterThanOrEqual(step.to)
        }
      for (const step of after)
        for (const breaker of given.boxes[step.box]!.breakers) expect(step.from).toBeGreaterThanOrEqual(off.get(breaker)!.to - 1e-9)
      expect(after.map((step) => step.box).sort()).toEqual(order.filter((index) => given.boxes[index]!.after > 0).sort())
      expect(end).toBeCloseTo(Math.max(0, ...busy.map(({ to }) => to), ...offs.map(({ to }) => to)), 9)
    }),
    // Two people who were free together, one of them already in the room of the second box.
    { examples: [[563139268, 9]] },
  )
})

test('boxes of one circuit one after the other: each circuit is off for half as long as in the order of the rooms', () => {
  const given = work([box('a', ['1']), box('b', ['2']), box('c', ['1']), box('d', ['2'])])
  const { order, run } = orderOfVisit(given)
  expect(ids(given, order)).toMatch(/^(a c b d|c a b d|a c d b|c a d b|b d a c|d b a c|b d c a|d b c a)$/)
  const off = (played: typeof run) => played.offs.reduce((sum, { from, to }) => sum + to - from, 0)
  expect(off(run)).toBeLessThan(0.7 * off(playVisit(given, [0, 1, 2, 3])))
})
test('a box on both circuits comes between those of each', () => {
  const given = work([box('both', ['1', '2']), box('one', ['1']), box('two', ['2'])])
  expect(['one both two', 'two both one']).toContain(ids(given, orderOfVisit(given).order))
})
test('rooms that lose their light come before dark; boxes of one light are in hand together', () => {
  const dusk = work([box('day', ['1']), box('lit', ['2']), box('cellar', ['3'], { dark: true })], { darkAt: 40 })
  expect(ids(dusk, orderOfVisit(dusk).order)).toMatch(/^cellar/)
  const pair = work([box('hall', ['1'], { mates: ['loft'] }), box('kitchen', ['2']), box('loft', ['3'], { mates: ['hall'] })])
  expect(ids(pair, orderOfVisit(pair).order)).toMatch(/hall loft|loft hall/)
})
test('one joins and tests while the other goes on', () => {
  const given = work([box('a', ['1'], { after: 20, minutes: 10 }), box('b', ['2'], { after: 20 }), box('c', ['3'], { after: 20 })], {
    people: 2,
  })
  const { run } = orderOfVisit(given)
  const joining = run.after[0]!
  expect(run.steps.some(({ person, from, to }) => person !== joining.person && from < joining.to && to > joining.from)).toBe(true)
  expect(run.end).toBeLessThan(0.75 * orderOfVisit({ ...given, people: 1 }).run.end)
})
test('up to six boxes the best of all orders; seven: within a hundredth of it, mostly equal', () => {
  const chance = new Chance(7)
  const all = function* (rest: number[], done: number[] = []): Generator<number[]> {
    if (!rest.length) yield done
    for (const one of rest)
      yield* all(
        rest.filter((other) => other !== one),
        [...done, one],
      )
  }
  let equal = 0
  const trials = 12
  for (let trial = 0; trial < trials; trial++) {
    const given = randomWork(chance, 7)
    let best = Infinity
    for (const order of all([0, 1, 2, 3, 4, 5, 6])) best = Math.min(best, costOfVisit(given, order))
    const { cost, order } = orderOfVisit(given)
    expect([...order].sort()).toEqual([0, 1, 2, 3, 4, 5, 6])
    expect(cost).toBeCloseTo(costOfVisit(given, order), 9)
    expect(cost).toBeLessThan(best * 1.03)
    if (cost < best + 1e-6) equal++
  }
  expect(equal).toBeGreaterThan(trials * 0.6)
})
test('no box, one box, thirty boxes', () => {
  expect(orderOfVisit(work([]))).toMatchObject({ order: [], run: { end: 0 } })
  expect(orderOfVisit(work([box('a', ['1'])])).run.offs).toEqual([{ breaker: '1', from: 2, to: 40 }])
  const big = randomWork(new Chance(3), 30)
  const { order, cost } = orderOfVisit(big)
  expect(new Set(order).size).toBe(30)
  expect(cost).toBeLessThanOrEqual(
    costOfVisit(
      big,
      big.boxes.map((_, index) => index),
    ),
  )
})

describe('enough for today', () => {
  const given = work([box('a', ['1']), box('b', ['2']), box('c', ['3'])])
  const { order } = orderOfVisit(given)
  test('everything fits, or so many boxes do and after that none is begun', () => {
    expect(enoughUntil(given, order, 600)).toMatchObject({ boxes: 3, of: 3, lastStart: null, handover: true })
    // A box is 45 minutes with walk, breaker, joining: two of them at four of five days’ pace are 117, and ten to leave.
    const short = enoughUntil(given, order, 130)
    expect(short).toMatchObject({ boxes: 2, of: 3, handover: false })
    // The third, 35 minutes, would have to begin 1.3 × 35 + 10 before the end.
    expect(short.lastStart).toBeCloseTo(130 - 10 - 1.3 * 35, 9)
    expect(enoughUntil(given, order, 5)).toMatchObject({ boxes: 0, lastStart: 0 })
  })
  test('more time never means fewer boxes', () => {
    const many = randomWork(new Chance(11), 9)
    const best = orderOfVisit(many).order
    let last = 0
    for (let until = 0; until < 700; until += 10) {
      const { boxes } = enoughUntil(many, best, until)
      expect(boxes).toBeGreaterThanOrEqual(last)
      last = boxes
    }
    expect(last).toBe(9)
  })
})

describe('at the door', () => {
  const scenario = new Scenario(testFile)
  const visitId = scenario.newId()
  const visit = {
    ...{ type: 'scheduleVisit' as const, visitId, kind: 'install' as const, callbackId: null },
    startsAt: new Date(scenario.now).toISOString(),
    endsAt: new Date(scenario.now + 7_200_000).toISOString(),
    windowFrom: new Date(scenario.now).toISOString(),
    windowTo: new Date(scenario.now + 7_200_000).toISOString(),
    personIds: [crew.ann.personId],
  }
  scenario.must(scenario.submitJob(visit, crew.office))
  const planned = () => scenario.job.visits[visitId]!
  const facts = { ready: [], licensed: true }
  const all = (is: 'yes' | 'no') => ({ adult: is, panel: is, mustStay: is, account: is, network: is })
  test('what nobody knows is asked; the record’s boxes become work, each with its circuits', () => {
    const checks = doorChecks(scenario.job, scenario.site, planned(), facts)
    expect(doorVerdict(checks)).toMatchObject({ is: 'ask' })
    expect(checks.filter(({ is }) => is === 'ask').map(({ id }) => id)).toEqual(['adult', 'panel', 'mustStay', 'account', 'network'])
    const { boxes } = workOfVisit(scenario.job, scenario.site, { people: 1 })
    expect(boxes).toHaveLength(2)
    for (const { id } of boxes) expect(scenario.job.boxIds).toContain(id)
    for (const one of boxes) expect(one.breakers.length).toBeGreaterThan(0)
    expect(workOfVisit(scenario.job, scenario.site, { people: 1, pace: 2 }).boxes[0]!.minutes).toBeCloseTo(2 * boxes[0]!.minutes, 9)
  })
  test('all is well: go; nobody adult, no panel, nobody licensed: do not begin; the account alone: begin, and leave it for another day', () => {
    const verdict = (answers: object, over: object = {}) => {
      const { is, because } = doorVerdict(doorChecks(scenario.job, scenario.site, planned(), { ...facts, ...over }, answers))
      return [is, because.map(({ id }) => id).join()]
    }
    expect(verdict(all('yes'))).toEqual(['go', ''])
    expect(verdict({ ...all('yes'), adult: 'no' })).toEqual(['no', 'adult'])
    expect(verdict({ ...all('yes'), panel: 'no' })).toEqual(['no', 'panel'])
    expect(verdict(all('yes'), { licensed: false })).toEqual(['no', 'licence'])
    expect(verdict({ ...all('yes'), account: 'no' })).toEqual(['part', 'account'])
    // What the customer ticked counts until somebody looks; what must not lose power is asked all the same.
    const ready = ['adult', 'panel', 'mustStay', 'account', 'codeReceiver', 'wifi']
    expect(verdict({}, { ready })).toEqual(['ask', 'mustStay'])
    expect(verdict({ mustStay: 'yes', panel: 'no' }, { ready })).toEqual(['no', 'panel'])
  })
})

test('what must not lose power is named before anything is off: a breaker that is off limits, a motor that must run', () => {
  const scenario = new Scenario(testFile)
  const [boxId] = scenario.job.boxIds
  const [breakerId] = scenario.site.boxes[boxId!]!.breakerIds
  scenario.must(scenario.submitSite({ type: 'markOffLimits', breakerId: breakerId!, reason: 'Seed-vault fan must run' }))
  const { run } = orderOfVisit(workOfVisit(scenario.job, scenario.site, { people: 1 }))
  expect(circuitsOff(scenario.job, scenario.site, run).find((one) => one.breakerId === breakerId)!.asks).toEqual([
    'Seed-vault fan must run',
  ])
  const visit = { kind: 'install', personIds: [] } as never
  const check = doorChecks(scenario.job, scenario.site, visit, { ready: ['mustStay'], licensed: true }).find(({ id }) => id === 'mustStay')!
  expect(check.why).toBe('On record: Seed-vault fan must run.')
  expect(check.is).toBe('ask')
})
