import fc from 'fast-check'
import { plainModel, type DeviceModel } from '../fit'
import type { SolutionKind } from '../plan'
import { inventedCode } from '../testing/codes'
import { crew, Scenario, testModel } from '../testing/scenario'
import {
  buyAsKits,
  gtinIn,
  inHand,
  judgeScan,
  opened,
  orderFrom,
  partNeeds,
  reorderPoint,
  reserved,
  scanWords,
  stillToPick,
  toolsFor,
  type Supply,
  type Want,
} from './index'

test('the textbook’s reorder point: d·L + z·σ·√L', () => {
  // Worked example as textbooks of operations management give it, from memory: 15 a day, standard deviation 5, lead time
  // 2 days, 97 % sure (z = 1.88): safety 13.3, order again at 43.3.
  const spread = Array.from({ length: 2000 }, (_, index) => 15 + (index % 2 ? 5 : -5))
  const { point, safety } = reorderPoint({ perDay: spread, leadDays: 2, service: 0.97 })
  expect(safety).toBeCloseTo(13.3, 1)
  expect(point).toBeCloseTo(43.3, 1)
  expect(reorderPoint({ perDay: [], leadDays: 5, service: 0.95 })).toEqual({ point: 0, safety: 0 })
  expect(reorderPoint({ perDay: [0, 0, 0], leadDays: 5, service: 0.95 })).toEqual({ point: 0, safety: 0 })
})

test('where to buy: the cheapest that arrives in time, packs whole; else the first to arrive, and said so', () => {
  const near = { supplier: 'near', costCents: 300, leadDays: 1, packOf: 1 }
  const far = { supplier: 'far', costCents: 200, leadDays: 12, packOf: 5 }
  expect(orderFrom([near, far], 3, 20)).toMatchObject({ supply: near, quantity: 3, costCents: 900, late: false })
  expect(orderFrom([near, far], 5, null)).toMatchObject({ supply: far, quantity: 5, costCents: 1000 })
  expect(orderFrom([near, far], 5, 3)).toMatchObject({ supply: near, late: false })
  expect(orderFrom([near, far], 5, 0)).toMatchObject({ supply: near, late: true })
  expect(orderFrom([], 5, 0)).toBeNull()
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 200 }), fc.option(fc.integer({ min: 0, max: 30 })), (wanted, days) => {
      const order = orderFrom([near, far], wanted, days)!
      expect(order.quantity).toBeGreaterThanOrEqual(wanted)
      expect(order.quantity % order.supply.packOf).toBe(0)
      if (!order.late && days !== null) expect(order.supply.leadDays).toBeLessThanOrEqual(days)
    }),
  )
})

// GS1 General Specifications: AI (01); GS1 Digital Link: /01/ in the path.
test('the number in whatever was read', () => {
  const number = '06291041500213'
  for (const read of [
    '6291041500213',
    '(01)06291041500213',
    '0106291041500213',
    'https://id.example/01/06291041500213/10/ABC',
    ' 6291-0415 00213 ',
    ']C1' + '0106291041500213',
  ])
    expect(gtinIn(read)).toBe(number)
  for (const read of ['', 'switch', '6291041500214', '(01)06291041500214', '12345']) expect(gtinIn(read)).toBeNull()
})

const model = (id: string, name: string, terminals: DeviceModel['terminals']): DeviceModel => ({
  ...testModel,
  ...plainModel,
  id,
  name,
  terminals,
  maker: 'Ash',
})
const withNeutral = model('m1', 'Slate dimmer', ['neutral', 'load', 'line'])
const without = model('m2', 'Slate dimmer, no neutral', ['load', 'line'])
const sold = (id: string, refId: string | null, name: string, gtin: string, kind = 'device' as const) => ({
  id,
  refId,
  name,
  maker: 'Ash',
  gtin,
  kind,
})
const right = sold('a1', 'm1', 'Slate dimmer', '6291041500213')
const wrong = sold('a2', 'm2', 'Slate dimmer, no neutral', '96385074')

test('the look-alike is named at the shelf, with what it lacks; a stranger and nonsense are told apart', () => {
  const judge = (text: string) =>
    judgeScan(text, [right], [right, wrong, sold('a3', null, 'Lantern relay', '036000291452')], [withNeutral, without])
  expect(judge('6291041500213')).toMatchObject({ is: 'right' })
  expect(judge('96385074')).toMatchObject({ is: 'lookAlike', differs: 'it has no neutral lead' })
  expect(scanWords(judge('96385074'))).toMatch(
    /Not this one: Ash Slate dimmer, no neutral looks like Ash Slate dimmer, but it has no neutral lead. Put it back/,
  )
  expect(judge('036000291452')).toMatchObject({ is: 'notWanted' })
  expect(judge('5901234123457')).toMatchObject({ is: 'unknown' })
  expect(judge('hello')).toMatchObject({ is: 'unreadable' })
  // The other way round: what has a lead too many.
  expect(judgeScan('6291041500213', [wrong], [right, wrong], [withNeutral, without])).toMatchObject({
    differs: 'it has a neutral lead more',
  })
})

describe('parts of a job', () => {
  const articleId = '01890000-0000-7000-b000-000000000001'
  const [store, van] = ['01890000-0000-7000-b000-000000000002', '01890000-0000-7000-b000-000000000003']
  const sell = (scenario: Scenario, quantity: number, kind: 'quote' | 'change' = 'quote') =>
    scenario.submitJob(
      {
        type: 'sellPlan',
        saleId: scenario.newId(),
        kind,
        number: '1-1',
        signer: 'C. Test',
        currency: 'USD',
        totalCents: 100,
        solutions: [],
        parts: [{ articleId, name: 'switch', quantity }],
      },
      crew.office,
    )
  const move = (scenario: Scenario, as: 'pick' | 'use' | 'return', quantity = 1, over: object = {}) =>
    scenario.submitJob({
      type: 'movePart',
      moveId: scenario.newId(),
      articleId,
      name: 'switch',
      quantity,
      as,
      fromId: as === 'pick' ? store : van,
      toId: as === 'pick' ? van : as === 'return' ? store : null,
      scanned: '',
      inHand: false,
      ...over,
    })
  const need = (scenario: Scenario) => partNeeds(scenario.job)[0]!

  test('sold, picked, used, brought back: what is kept back and what is in hand follow', () => {
    const scenario = new Scenario()
    scenario.must(sell(scenario, 4))
    expect([stillToPick(need(scenario)), reserved(need(scenario)), inHand(need(scenario))]).toEqual([4, 4, 0])
    scenario.must(move(scenario, 'pick', 3))
    scenario.must(move(scenario, 'use'))
    expect([stillToPick(need(scenario)), reserved(need(scenario)), inHand(need(scenario))]).toEqual([1, 3, 2])
    scenario.must(move(scenario, 'return', 2))
    expect(need(scenario)).toMatchObject({ picked: 1, used: 1 })
    expect(move(scenario, 'return')).toMatchObject({ ok: false, refusal: { code: 'notPicked' } })
    // A change that wants one less.
    scenario.must(sell(scenario, -1, 'change'))
    expect(need(scenario)).toMatchObject({ sold: 3 })
  })

  test('a device that was picked and goes into the wall is used; one that somebody counted away meanwhile was there all the same', () => {
    const scenario = new Scenario()
    const boxId = scenario.box('door').id
    scenario.must(sell(scenario, 2))
    scenario.must(move(scenario, 'pick', 2))
    scenario.must(
      scenario.submitJob({ type: 'chooseDevice', boxId, gang: 1, modelId: testModel.id, pointIds: [scenario.point('Door light').id] }),
    )
    scenario.stock = { ...scenario.stock, level: () => 0 }
    const record = (serial: string, unitId: string) =>
      scenario.submitJob({ type: 'recordUnit', unitId, boxId, gang: 1, serial, setupCode: inventedCode(7), setupCodeAgain: '' })
    const unitId = scenario.newId()
    scenario.must(record('TD-1001', unitId))
    expect(scenario.job.partMoves.at(-1)).toMatchObject({ as: 'use', fromId: van, toId: null, inHand: true, moveId: unitId })
    expect(need(scenario)).toMatchObject({ used: 1, picked: 2 })
    // Its serial corrected: nothing more is used.
    scenario.must(record('TD-1002', unitId))
    expect(need(scenario)).toMatchObject({ used: 1 })
  })

  test('more than the record has wants somebody’s word; a wrong scan is refused; what goes into the wall goes to no place', () => {
    const scenario = new Scenario()
    expect(move(scenario, 'pick', 6)).toMatchObject({ ok: false, refusal: { code: 'notThere' } })
    scenario.must(move(scenario, 'pick', 6, { inHand: true }))
    expect(move(scenario, 'pick', 1, { scanned: '96385074' })).toMatchObject({ ok: false, refusal: { code: 'wrongArticle' } })
    expect(move(scenario, 'pick', 1, { scanned: 'nonsense' })).toMatchObject({ ok: false, refusal: { code: 'wrongArticle' } })
    scenario.must(move(scenario, 'pick', 1, { scanned: '(01)06291041500213' }))
    expect(move(scenario, 'use', 1, { toId: store })).toMatchObject({ ok: false, refusal: { code: 'noWay' } })
    const again = scenario.job.partMoves[0]!.moveId
    expect(move(scenario, 'pick', 1, { moveId: again })).toMatchObject({ ok: false, refusal: { code: 'movedAlready' } })
  })
})

test('tools follow from what was agreed, and nothing is carried for what stays as it is', () => {
  const scenario = new Scenario()
  const [first, second] = Object.values(scenario.job.points)
  const sale = (...solutions: [string, SolutionKind][]) => ({
    ...scenario.job,
    sales: [{ solutions: solutions.map(([id, kind]) => ({ pointIds: [id], kind, what: '', devices: [], minutes: 0 })) }] as never,
  })
  expect(toolsFor(scenario.job)).toEqual([])
  expect(toolsFor(sale([first!.id, 'leave'], [second!.id, 'leave']))).toEqual([])
  const usual = toolsFor(sale([first!.id, 'withNeutral']))
  expect(usual[0]).toBe('two-pole tester and its proving source')
  expect(usual).not.toContain('ladder')
  expect(toolsFor(sale([first!.id, 'relayAtFixture'], [second!.id, 'smartLamps'])).filter((tool) => tool === 'ladder')).toHaveLength(1)
  expect(toolsFor(sale([first!.id, 'pullNeutral']))).toEqual(expect.arrayContaining(['fish tape', 'drill and long bit']))
})

describe('kits with a hub', () => {
  const single = (costCents: number, leadDays = 1): Supply[] => [{ supplier: 'Counter', costCents, leadDays, packOf: 1 }]
  const kit = (costCents: number, leadDays = 1) => ({
    id: 'kit',
    contents: [
      { articleId: 'hub', quantity: 1 },
      { articleId: 'dimmer', quantity: 2 },
    ],
    supplies: single(costCents, leadDays),
  })
  const want = (articleId: string, wanted: number, costCents: number, days: number | null = null, leadDays = 1): Want => ({
    articleId,
    wanted,
    days,
    supplies: single(costCents, leadDays),
  })

  // Hub 40, dimmers 28 each: 40 + 5 × 28 = 180 singly; a kit at 85 and three more dimmers 169.
  test('one is bought where it costs less, the rest singly', () => {
    const { kits, left } = buyAsKits([want('hub', 1, 4000), want('dimmer', 5, 2800)], [kit(8500)])
    expect(kits).toMatchObject([{ order: { quantity: 1 }, savesCents: 1100, instead: [{ quantity: 1 }, { quantity: 2 }] }])
    expect(left.map(({ wanted }) => wanted)).toEqual([0, 3])
  })
  test('not for its dimmers alone: a second hub that nobody wants counts for nothing', () => {
    expect(buyAsKits([want('dimmer', 2, 2800)], [kit(8500)]).kits).toEqual([])
    // So cheap that the hub is thrown in.
    expect(buyAsKits([want('dimmer', 2, 2800)], [kit(5000)]).kits).toHaveLength(1)
  })
  test('one that comes too late is none, and one that alone comes in time is taken whatever it costs', () => {
    const wants = (leadDays: number) => [want('hub', 1, 4000, 3, leadDays), want('dimmer', 2, 2800, 3, leadDays)]
    expect(buyAsKits(wants(1), [kit(8500, 12)]).kits).toEqual([])
    expect(buyAsKits(wants(12), [kit(19900, 1)]).kits).toMatchObject([{ savesCents: null }])
  })
  test('as cheap as trying every number of two kits that share nothing', () => {
    fc.assert(
      fc.property(
        fc.record({
          hub: fc.integer({ min: 0, max: 3 }),
          dimmer: fc.integer({ min: 0, max: 7 }),
          guard: fc.integer({ min: 0, max: 7 }),
          one: fc.integer({ min: 1000, max: 12000 }),
          other: fc.integer({ min: 300, max: 4000 }),
        }),
        ({ hub, dimmer, guard, one, other }) => {
          const wants = [want('hub', hub, 4000), want('dimmer', dimmer, 2800), want('guard', guard, 600)]
          const guards = { id: 'guards', contents: [{ articleId: 'guard', quantity: 4 }], supplies: single(other) }
          const found = buyAsKits(wants, [kit(one), guards])
          const cost =
            found.kits.reduce((sum, { order }) => sum + order.costCents, 0) +
            found.left.reduce((sum, { wanted, supplies }) => sum + wanted * supplies[0]!.costCents, 0)
          const tried = [0, 1, 2, 3, 4].flatMap((a) =>
            [0, 1, 2].map(
              (b) =>
                a * one + b * other + Math.max(0, hub - a) * 4000 + Math.max(0, dimmer - 2 * a) * 2800 + Math.max(0, guard - 4 * b) * 600,
            ),
          )
          expect(cost).toBe(Math.min(...tried))
        },
      ),
      { seed: 14, numRuns: 200 },
    )
  })
  test('received, it is what is in it', () => {
    expect(opened([kit(1)], 'kit', 3)).toEqual([
      { articleId: 'hub', quantity: 3 },
      { articleId: 'dimmer', quantity: 6 },
    ])
    expect(opened([kit(1)], 'hub', 3)).toEqual([{ articleId: 'hub', quantity: 3 }])
  })
})
