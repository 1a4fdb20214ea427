import { inventedCode } from '../../testing/codes'
import { crew, Scenario, testFile, testModel } from '../../testing/scenario'
import { daysAfter, devicesOut } from '../unit/returns'
import { checksFor, pointStatus, testResults } from '../progress'
import { leftInShop, preparedOf, unitInBag } from './prepared'
import type { PrepareUnit } from './prepare-unit.schema'

const single = { ...testFile, boxes: [testFile.boxes[0]!], points: [testFile.points[0]!] }
const point = (scenario: Scenario) => Object.values(scenario.job.points)[0]!
const code = (result: ReturnType<Scenario['submitJob']>) => (result.ok ? 'accepted' : result.refusal.code)
const metering = { ...testModel, metering: true }
const other = { ...testModel, id: '01890000-0000-7000-a000-0000000000d9', name: 'Other' }
const models = { model: (id: string) => [metering, other].find((one) => one.id === id) ?? null }
const whole = { screws: true, leads: true, plate: true, codeCard: true }

/** A job in the shop: a crew is planned, the device is chosen, nobody has been there. */
function inTheShop(file = single): Scenario {
  const scenario = new Scenario(file)
  const times = { startsAt: '2026-03-02T08:00:00.000Z', endsAt: '2026-03-02T10:00:00.000Z' }
  scenario.must(
    scenario.submitJob(
      {
        type: 'scheduleVisit',
        visitId: scenario.newId(),
        kind: 'install',
        callbackId: null,
        ...times,
        windowFrom: times.startsAt,
        windowTo: times.endsAt,
        personIds: [crew.ann.personId],
        alsoBooked: false,
      },
      crew.office,
    ),
  )
  choose(scenario, 'door', testModel.id)
  return scenario
}
const choose = (scenario: Scenario, box: string, modelId: string) =>
  scenario.must(
    scenario.submitJob(
      { type: 'chooseDevice', boxId: scenario.box(box).id, gang: 1, modelId, pointIds: box === 'door' ? [point(scenario).id] : [] },
      crew.ann,
      models,
    ),
  )
const prepare = (scenario: Scenario, more: Partial<PrepareUnit> = {}, box = 'door') =>
  scenario.submitJob({
    type: 'prepareUnit',
    boxId: scenario.box(box).id,
    gang: 1,
    serial: 'SN-001',
    setupCode: inventedCode(1),
    setupCodeAgain: '',
    carton: whole,
    version: '2.4',
    settings: 'off after an interruption',
    lamp: 'passed',
    power: 'passed',
    meter: 'passed',
    note: '',
    ...more,
  })
/** Arrives, wires and closes; the power is back. */
function install(scenario: Scenario, serial = 'SN-001', setupCode = '') {
  scenario.must(scenario.submitJob({ type: 'arrive', visitId: Object.keys(scenario.job.visits)[0]! }))
  scenario.openAndTag(['1'])
  scenario.conductors('door', 'ABCD')
  scenario.prove('door')
  const unitId = scenario.newId()
  const answer = record(scenario, serial, setupCode, unitId)
  if (!answer.ok) return { unitId, answer }
  scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
  scenario.takeTagsOff()
  scenario.powerOn('1')
  return { unitId, answer }
}
const record = (scenario: Scenario, serial: string, setupCode = '', unitId = scenario.newId(), box = 'door') =>
  scenario.submitJob({ type: 'recordUnit', unitId, boxId: scenario.box(box).id, gang: 1, serial, setupCode, setupCodeAgain: '' })
const kinds = (scenario: Scenario) => {
  const results = testResults(scenario.job, scenario.site, point(scenario))
  return checksFor(scenario.job, scenario.site, point(scenario)).flatMap(({ id }) => (results[id] ? [id] : []))
}

test('what is left is said, until a bag is ready', () => {
  const scenario = inTheShop()
  scenario.must(
    prepare(scenario, { setupCode: '', carton: { screws: true }, version: '', settings: '', lamp: 'none', power: 'none', meter: 'none' }),
  )
  const left = () => leftInShop(unitInBag(scenario.job, scenario.box('door').id, 1)!)
  expect(left()).toEqual(['the carton', 'its code', 'the update', 'its settings', 'the lamp', 'its meter'])
  scenario.must(prepare(scenario))
  expect(left()).toEqual([])
})

test('evidence travels with the serial: the site repeats what depends on the home, and nothing else', () => {
  const scenario = inTheShop()
  scenario.must(prepare(scenario))
  install(scenario)
  // Its meter and how it comes back are its own; on and off from the door depend on the wiring.
  expect(kinds(scenario)).toEqual(['meter', 'power'])
  expect(pointStatus(scenario.job, scenario.site, point(scenario))).toBe('partial')
  expect(Object.values(scenario.job.units)[0]!.code.ending).toBe(inventedCode(1).slice(-2))
})

test('another serial than the one in the bag brings no evidence, and needs its own code', () => {
  const scenario = inTheShop()
  scenario.must(prepare(scenario))
  expect(code(install(scenario, 'SN-002').answer)).toBe('codeWrong')
  scenario.must(record(scenario, 'SN-002', inventedCode(2)))
  expect(kinds(scenario)).toEqual([])
})

test.each([
  ['a pairing that failed first', (scenario: Scenario, unitId: string) => pairing(scenario, unitId, 'failed'), ['meter']],
  ['paired at once', (scenario: Scenario, unitId: string) => pairing(scenario, unitId, 'joined'), ['meter', 'power']],
] as const)('whoever starts a device anew takes its settings: %s', (_, then, expected) => {
  const scenario = inTheShop()
  scenario.must(prepare(scenario))
  then(scenario, install(scenario).unitId)
  expect(kinds(scenario)).toEqual(expected)
})
const pairing = (scenario: Scenario, unitId: string, result: 'failed' | 'joined') =>
  scenario.must(
    scenario.submitJob({
      type: 'recordPairing',
      unitId,
      result,
      network: 'home',
      signal: { kind: 'dbm', dbm: -60 },
      note: result === 'failed' ? 'no answer' : '',
    }),
  )

test('what was seen on site counts before what the shop says, old as it may be', () => {
  const scenario = inTheShop()
  scenario.must(prepare(scenario))
  install(scenario)
  scenario.must(
    scenario.submitJob({ type: 'testPoint', pointId: point(scenario).id, checkId: 'power', result: 'fail', note: 'comes back on' }),
  )
  expect(pointStatus(scenario.job, scenario.site, point(scenario))).toBe('failed')
  // Opened again since: the failure says nothing any more, and the shop’s word does not come back either.
  scenario.openAndTag(['1'])
  scenario.prove('door')
  expect(kinds(scenario)).toEqual(['meter'])
})

test('what failed in the shop does not go into a wall, nor what is another model', () => {
  const scenario = inTheShop()
  expect(code(prepare(scenario, { lamp: 'failed' }))).toBe('noteMissing')
  scenario.must(prepare(scenario, { lamp: 'failed', note: 'flickers at half' }))
  expect(code(install(scenario).answer)).toBe('failedInShop')
  // Tried again with another lamp, it is good.
  scenario.must(prepare(scenario))
  scenario.must(record(scenario, 'SN-001'))

  const second = inTheShop(testFile)
  choose(second, 'stair', other.id)
  scenario.must(prepare(second, {}, 'stair'))
  expect(code(prepare(second))).toBe('otherModel')
  expect(code(install(second).answer)).toBe('otherModel')
})

test('cards of two cartons that were exchanged are caught, in the shop and at the wall', () => {
  const scenario = inTheShop(testFile)
  choose(scenario, 'stair', testModel.id)
  scenario.must(prepare(scenario))
  expect(code(prepare(scenario, { serial: 'SN-002' }, 'stair'))).toBe('codeInUse')
  scenario.must(prepare(scenario, { serial: 'SN-002', setupCode: inventedCode(2) }, 'stair'))
  expect(code(install(scenario, 'SN-001', inventedCode(3)).answer)).toBe('codeOther')
  expect(code(record(scenario, 'SN-001', inventedCode(2)))).toBe('codeInUse')
  expect(code(record(scenario, 'SN-001', inventedCode(1)))).toBe('accepted')
})

test('the digits and the square code of one device are one code', () => {
  // The published sample pair of the open home standard's reference SDK.
  const [digits, square] = ['34970112332', 'MT:Y.K9042C00KA0648G00']
  const scenario = inTheShop(testFile)
  choose(scenario, 'stair', testModel.id)
  scenario.must(prepare(scenario, { setupCode: digits }))
  expect(code(prepare(scenario, { serial: 'SN-002', setupCode: square }, 'stair'))).toBe('codeInUse')
  scenario.must(prepare(scenario, { setupCode: square }))
  expect(code(install(scenario, 'SN-001', digits).answer)).toBe('accepted')
})

test('one device lies in one bag; whoever notes something more has not made its tests', () => {
  const scenario = inTheShop(testFile)
  choose(scenario, 'stair', testModel.id)
  scenario.must(prepare(scenario))
  expect(code(prepare(scenario, {}, 'stair'))).toBe('inOtherBag')
  const [before] = Object.values(scenario.job.prepared)
  scenario.must(prepare(scenario, { setupCode: '', note: 'label printed' }))
  expect(preparedOf(scenario.job, 'sn-001')).toMatchObject({ by: before!.by, at: before!.at, note: 'label printed' })
  // Another one for there: then the first is free.
  scenario.must(prepare(scenario, { serial: 'SN-002', setupCode: inventedCode(2) }))
  expect(code(prepare(scenario, {}, 'stair'))).toBe('accepted')
})

test('what failed for another job of the company goes into no wall of this one', () => {
  const scenario = inTheShop()
  scenario.must(scenario.submitJob({ type: 'arrive', visitId: Object.keys(scenario.job.visits)[0]! }))
  const answer = scenario.submitJob(
    {
      type: 'recordUnit',
      unitId: scenario.newId(),
      boxId: scenario.box('door').id,
      gang: 1,
      serial: 'SN-066',
      setupCode: inventedCode(6),
      setupCodeAgain: '',
    },
    crew.ann,
    { failedAnywhere: (serial) => (serial === 'SN-066' ? 'hums' : null) },
  )
  expect(code(answer)).toBe('failedInShop')
})

test('a serial may be any word: of none that an object knows by itself is anything known', () => {
  const scenario = inTheShop()
  for (const serial of ['constructor', '__proto__', 'toString']) {
    expect(preparedOf(scenario.job, serial)).toBeNull()
    scenario.must(prepare(scenario, { serial, setupCode: '' }))
    expect(preparedOf(scenario.job, serial)).toMatchObject({ serial })
  }
})

test('coming back as set says nothing before anything was set', () => {
  expect(code(prepare(inTheShop(), { settings: '' }))).toBe('nothingSet')
})

test('in a place it was not set for, it keeps its meter and loses its settings', () => {
  const scenario = inTheShop(testFile)
  choose(scenario, 'stair', testModel.id)
  scenario.must(prepare(scenario, {}, 'stair'))
  install(scenario)
  expect(kinds(scenario)).toEqual(['meter'])
})

test('a device in the wall is prepared no more; one that is to replace it is, once somebody called', () => {
  const scenario = inTheShop()
  scenario.must(prepare(scenario))
  const { unitId } = install(scenario)
  const replacement = { serial: 'SN-009', setupCode: inventedCode(9) }
  expect(code(prepare(scenario, replacement))).toBe('unitInstalled')
  expect(kinds(scenario)).toEqual(['meter', 'power'])
  const signs = { offlineInApp: true, wallSwitchFlipped: false, routerChanged: false, breakerTripped: false }
  const callback = { callbackId: scenario.newId(), unitId, what: 'dead since the morning', since: '2026-03-03', ...signs }
  scenario.must(scenario.submitJob({ type: 'openCallback', ...callback }))
  expect(code(prepare(scenario, replacement))).toBe('accepted')
  // What the shop knew of the one that somebody called about says nothing any more.
  expect(kinds(scenario)).toEqual([])
})

test('one that failed in the shop is out, too: it goes back without having been in a wall', () => {
  const scenario = inTheShop()
  scenario.must(prepare(scenario, { lamp: 'failed', note: 'no light' }))
  const [out, ...more] = devicesOut(scenario.job)
  expect([out, more]).toMatchObject([{ unitId: null, callbackId: null, shopNote: 'no light', stage: 'waits', goes: 'return' }, []])
  const sent = { type: 'followReturn' as const, serial: out!.serial.toLowerCase(), goes: 'return' as const, stage: 'sent' as const }
  scenario.must(
    scenario.submitJob({
      ...sent,
      dueOn: daysAfter(out!.outAt, 30),
      cleared: 'neverJoined',
      reference: '',
      outcome: null,
      creditCents: null,
      note: '',
    }),
  )
  expect(devicesOut(scenario.job)).toMatchObject([{ serial: out!.serial, stage: 'sent' }])
})
