import { crew, Scenario, testFile } from '../testing/scenario'
import { atServer, canTouch, isSettled, pairStatuses } from './index'

/**
 * NFPA 70E (2021) 120.5, the order of an electrically safe work condition, in own words and from memory: find every source;
 * open the disconnecting device of each; look that it is open; let stored energy go; lock and tag; test each conductor against
 * each other and to ground with an instrument that is tried on a known source before and after. Nothing later makes up for a
 * step that was left out or made too early.
 */
const single = { ...testFile, boxes: [testFile.boxes[0]!], points: [testFile.points[0]!] }
interface Step {
  name: string
  give: (scenario: Scenario, proofId: string) => unknown
}
const breaker = (scenario: Scenario) => scenario.breaker('1').id
const steps: Step[] = [
  { name: 'opened', give: (scenario) => scenario.submitSite({ type: 'observeBreaker', breakerId: breaker(scenario), state: 'open' }) },
  {
    name: 'locked and tagged',
    give: (scenario) =>
      scenario.submitSite({ type: 'hangTag', tagId: scenario.newId(), breakerId: breaker(scenario), lock: 'AT red 1', measure: '' }),
  },
  {
    name: 'tester tried',
    give: (scenario, proofId) =>
      scenario.submitSite({
        type: 'startProof',
        proofId,
        boxId: scenario.box('door').id,
        instrumentId: 'good',
        source: { kind: 'provingUnit', name: 'unit' },
        volts: 240,
      }),
  },
  { name: 'reference seen', give: (scenario, proofId) => scenario.seeReference(proofId) },
  {
    name: 'conductors read',
    give: (scenario, proofId) => {
      const proof = scenario.site.proofs[proofId]
      const pairs = proof ? pairStatuses(scenario.site, scenario.box('door'), proof).filter((one) => !isSettled(one)) : []
      for (const { a, b, position } of pairs)
        scenario.submitSite({ type: 'takeReading', proofId, a, b, position, impedance: 'low', volts: 0.1 })
    },
  },
  { name: 'reference seen again', give: (scenario, proofId) => scenario.seeReference(proofId, crew.ann, { again: true }) },
  { name: 'tester tried again', give: (scenario, proofId) => scenario.submitSite({ type: 'finishProof', proofId, volts: 240 }) },
]
/** May the box be touched once these were done, in this order? */
function after(order: Step[]): boolean {
  const scenario = new Scenario(single)
  scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('door').id }))
  scenario.conductors('door', 'ABCD')
  const proofId = scenario.newId()
  for (const step of order) step.give(scenario, proofId)
  const vantage = atServer(new Date(scenario.now).toISOString(), 120)
  return canTouch(scenario.site, scenario.box('door').id, crew.ann, vantage).yes
}
const without = (index: number) => steps.filter((_, at) => at !== index)
const names = (order: Step[]) => order.map(({ name }) => name).join(' → ')

describe('the order of an electrically safe work condition (NFPA 70E 2021, 120.5)', () => {
  test('followed, the box may be touched, and not a step earlier', () => {
    expect(steps.map((_, count) => after(steps.slice(0, count)))).toEqual(steps.map(() => false))
    expect(after(steps)).toBe(true)
  })
  test.each(steps.map(({ name }, index) => [name, index] as const))('left out: %s', (_, index) => expect(after(without(index))).toBe(false))
  test('any step made at another time than its own', () => {
    const orders = steps.flatMap((step, index) =>
      steps.flatMap((_, place) => (place === index ? [] : [[...without(index).slice(0, place), step, ...without(index).slice(place)]])),
    )
    expect(orders.filter(after).map(names)).toEqual([])
  })
  test('every source: with a second feed on record, the first alone is not enough', () => {
    const scenario = new Scenario(testFile)
    scenario.openAndTag(['1'])
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('stair').id }))
    scenario.conductors('stair', 'ABCD')
    const start = () =>
      scenario.submitSite({
        type: 'startProof',
        proofId: scenario.newId(),
        boxId: scenario.box('stair').id,
        instrumentId: 'good',
        source: { kind: 'provingUnit', name: 'unit' },
        volts: 240,
      })
    expect(start()).toMatchObject({ ok: false, refusal: { code: 'notIsolated' } })
    scenario.openAndTag(['2'])
    expect(start().ok).toBe(true)
  })
})
