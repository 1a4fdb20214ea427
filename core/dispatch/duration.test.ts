import fc from 'fast-check'
import { Chance } from '../chance'
import { inventedCode } from '../testing/codes'
import { crew, Scenario, testFile } from '../testing/scenario'
import { baseMinutes, bookedHours, durationOf, learn, minutesOf, nothingLearned, type FinishedVisit } from './duration'
import { workDone, workKinds, workLeft, type Work, type WorkKind } from './work'

const looking = (minutes: number): FinishedVisit => ({ work: { look: 10 }, minutes, personIds: [] })
const many = (count: number, visit: FinishedVisit) => Array.from({ length: count }, () => visit)

// Textbook shrinkage of a mean, normal model: n / (n + σ²/τ²) of what was seen; σ = 0.35, τ = 0.3.
test.each([1, 3, 10, 40])('%i visits of one kind, twice as long: as far as the textbook shrinks them', (count) => {
  const base = minutesOf({ look: 10 })
  const { kinds } = learn(many(count, looking(2 * base)))
  expect(kinds.look).toBeCloseTo(count / (count + (0.35 / 0.3) ** 2), 6)
})

/** Solves A x = b by elimination. */
function solve(matrix: number[][], right: number[]): number[] {
  const rows = matrix.map((row, at) => [...row, right[at]!])
  for (let at = 0; at < rows.length; at++) {
    const pivot = rows.slice(at).reduce((best, row, below) => (Math.abs(row[at]!) > Math.abs(rows[best]![at]!) ? at + below : best), at)
    ;[rows[at], rows[pivot]] = [rows[pivot]!, rows[at]!]
    for (let below = 0; below < rows.length; below++) {
      if (below === at) continue
      const factor = rows[below]![at]! / rows[at]![at]!
      rows[below] = rows[below]!.map((value, column) => value - factor * rows[at]![column]!)
    }
  }
  return rows.map((row, at) => row.at(-1)! / row[at]!)
}
const people = ['a', 'b', 'c']
const anyVisit = fc.record({
  work: fc.dictionary(fc.constantFrom<WorkKind>('box', 'device', 'pairing', 'multiWay'), fc.integer({ min: 1, max: 6 }), { minKeys: 1 }),
  slow: fc.double({ min: 0.4, max: 2.5, noNaN: true }),
  personIds: fc.subarray(people, { minLength: 1 }),
})

test('the same as solving the normal equations at once', () => {
  fc.assert(
    fc.property(fc.array(anyVisit, { minLength: 1, maxLength: 25 }), (all) => {
      const visits = all
        .map(({ work, slow, personIds }) => ({ work, minutes: slow * minutesOf(work), personIds }))
        .filter(({ minutes }) => minutes >= 5)
      const keys = [...workKinds, ...people]
      const rows = visits.map(({ work, personIds }) =>
        keys.map((key) =>
          people.includes(key)
            ? personIds.includes(key)
              ? 1 / personIds.length
              : 0
            : ((work[key as WorkKind] ?? 0) * baseMinutes[key as WorkKind]) / minutesOf(work),
        ),
      )
      const right = visits.map(({ minutes, work }) => minutes / minutesOf(work) - 1)
      const normal = keys.map((key, i) =>
        keys.map(
          (_, j) =>
            rows.reduce((sum, row) => sum + row[i]! * row[j]!, 0) + (i === j ? (0.35 / (people.includes(key) ? 0.2 : 0.3)) ** 2 : 0),
        ),
      )
      const exact = solve(
        normal,
        keys.map((_, i) => rows.reduce((sum, row, at) => sum + row[i]! * right[at]!, 0)),
      )
      const found = learn(visits)
      keys.forEach((key, at) => {
        const value = people.includes(key) ? (found.people[key] ?? 0) : found.kinds[key as WorkKind]
        expect(value).toBeCloseTo(exact[at]!, 5)
      })
    }),
    { seed: 15, numRuns: 60 },
  )
})

test('three jobs do not fool it; a visit nobody ended teaches nothing', () => {
  const base = minutesOf({ box: 2, device: 2 })
  const slow = (minutes: number): FinishedVisit => ({ work: { box: 2, device: 2 }, minutes, personIds: ['a'] })
  const after = (visits: FinishedVisit[]) => durationOf({ box: 2, device: 2 }, learn(visits), ['a']).minutes / base
  const three = after(many(3, slow(3 * base)))
  const sixty = after(many(60, slow(3 * base)))
  expect(three).toBeGreaterThan(1.2)
  expect(three).toBeLessThan(sixty - 0.4)
  expect(sixty).toBeGreaterThan(2.7)
  expect(after([slow(40 * 60), slow(1)])).toBe(1)
})

test('four of five visits lie in the range it names, and two of three end within the hours booked', () => {
  const chance = new Chance(15)
  const work: Work = { arrive: 1, box: 3, device: 3, pairing: 3, multiWay: 1, handover: 1 }
  const duration = durationOf(work, nothingLearned)
  let [inside, inTime] = [0, 0]
  const trials = 4000
  for (let trial = 0; trial < trials; trial++) {
    const day = 1 + 0.2 * chance.normal()
    const took = workKinds.reduce(
      (sum, kind) =>
        sum + Array.from({ length: work[kind] ?? 0 }, () => baseMinutes[kind] * (1 + 0.4 * chance.normal())).reduce((a, b) => a + b, 0),
      0,
    )
    const minutes = took + (day - 1) * duration.minutes
    if (minutes >= duration.low && minutes <= duration.high) inside++
    if (minutes <= bookedHours(duration) * 60) inTime++
  }
  expect(inside / trials).toBeGreaterThan(0.77)
  expect(inside / trials).toBeLessThan(0.83)
  expect(inTime / trials).toBeGreaterThan(0.64)
})

test('more work never takes less; slower people never less', () => {
  fc.assert(
    fc.property(anyVisit, fc.constantFrom(...workKinds), fc.double({ min: 0, max: 0.5, noNaN: true }), ({ work }, kind, slower) => {
      const more = { ...work, [kind]: ((work as Work)[kind] ?? 0) + 1 }
      expect(durationOf(more, nothingLearned).minutes).toBeGreaterThan(durationOf(work, nothingLearned).minutes)
      const learned = { ...nothingLearned, people: { a: slower } }
      expect(durationOf(work, learned, ['a']).minutes).toBeGreaterThanOrEqual(durationOf(work, learned).minutes)
    }),
    { seed: 15 },
  )
})

describe('what a visit is made of', () => {
  const times = {
    startsAt: '2026-03-02T08:00:00.000Z',
    endsAt: '2026-03-02T10:00:00.000Z',
    windowFrom: '2026-03-02T08:00:00.000Z',
    windowTo: '2026-03-02T09:00:00.000Z',
  }
  test('before: every box that waits, unknowns and all; after: what was recorded while it ran', () => {
    const scenario = new Scenario({ ...testFile, boxes: [testFile.boxes[0]!], points: [testFile.points[0]!] })
    expect(workLeft(scenario.job, scenario.site, 'install')).toEqual({ arrive: 1, box: 1, unknown: 1, device: 1, pairing: 1, handover: 1 })
    expect(workLeft(scenario.job, scenario.site, 'survey')).toEqual({ arrive: 1, look: 1 })
    expect(workLeft(scenario.job, scenario.site, 'callback')).toEqual({ arrive: 1, diagnosis: 1, box: 1 })
    const visitId = scenario.newId()
    scenario.must(
      scenario.submitJob(
        { type: 'scheduleVisit', visitId, kind: 'install', callbackId: null, ...times, personIds: [crew.ann.personId], alsoBooked: false },
        crew.office,
      ),
    )
    scenario.must(scenario.submitJob({ type: 'arrive', visitId }))
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCD')
    scenario.prove('door')
    scenario.wire('door', 1, ['Door light'], 'SN-001', inventedCode(1))
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
    scenario.takeTagsOff()
    scenario.powerOn('1')
    scenario.must(scenario.submitJob({ type: 'finishVisit', visitId }))
    expect(workDone(scenario.job, scenario.site, scenario.job.visits[visitId]!)).toEqual({ arrive: 1, box: 1, device: 1 })
    expect(workLeft(scenario.job, scenario.site, 'install')).toEqual({ arrive: 1, handover: 1 })
  })
})
