import type { JobState, Unit } from '../job/state'
import { inventedCode } from '../testing/codes'
import { crew, Scenario, testFile } from '../testing/scenario'
import { atWork, ofThisHome } from '.'

const times = {
  startsAt: '2026-03-02T08:00:00.000Z',
  endsAt: '2026-03-02T10:00:00.000Z',
  windowFrom: '2026-03-02T08:00:00.000Z',
  windowTo: '2026-03-02T09:00:00.000Z',
}
function wired(): { scenario: Scenario; unit: Unit } {
  const scenario = new Scenario({ ...testFile, boxes: [testFile.boxes[0]!], points: [testFile.points[0]!] })
  const visitId = scenario.newId()
  const visit = {
    type: 'scheduleVisit' as const,
    visitId,
    kind: 'install' as const,
    callbackId: null,
    ...times,
    personIds: [crew.ann.personId],
  }
  scenario.must(scenario.submitJob(visit, crew.office))
  scenario.must(scenario.submitJob({ type: 'arrive', visitId }))
  scenario.openAndTag(['1'])
  scenario.conductors('door', 'ABCD')
  scenario.prove('door')
  const unitId = scenario.wire('door', 1, ['Door light'], 'SN-001', inventedCode(1))
  return { scenario, unit: scenario.job.units[unitId]! }
}
const after = (unit: Unit, days: number) => new Date(Date.parse(unit.installedAt) + days * 86_400_000).toISOString()
const { scenario, unit } = wired()
const weighs = (of: Unit, cause: string, { days = 10, job = scenario.job }: { days?: number; job?: JobState } = {}): number =>
  ofThisHome(job, scenario.site, of, after(of, days)).facts.reduce((product, fact) => product * (fact.weighs[cause] ?? 1), 1)
const joined = (dbm: number): Unit => ({
  ...unit,
  pairing: { result: 'joined', network: 'home', signal: { kind: 'dbm', dbm }, attempts: 1, note: '' },
})

test('what is new fails early, what is old wears out', () => {
  expect(weighs(unit, 'earlyFailure')).toBeGreaterThan(3)
  expect(weighs(unit, 'earlyFailure', { days: 400 })).toBeLessThan(0.2)
  expect(weighs(unit, 'relayWorn', { days: 4 * 365 })).toBeGreaterThan(2)
  expect(ofThisHome(scenario.job, scenario.site, unit, after(unit, 0.2)).facts.map(({ words }) => words)).toContain(
    'in the wall since today',
  )
})
test('a weak level when it joined speaks for the signal, a good one against it', () => {
  expect(weighs(joined(-78), 'weakSignal')).toBeGreaterThan(3)
  expect(weighs(joined(-50), 'weakSignal')).toBeLessThan(0.5)
  expect(ofThisHome(scenario.job, scenario.site, joined(-78), after(unit, 1)).facts.map(({ words }) => words)).toContain(
    '−78 dBm when it joined',
  )
})
test('a device without a radio has no trouble with a network, and nobody is asked about one', () => {
  const deaf: Unit = { ...unit, model: { ...unit.model, radio: 'none' } }
  expect(weighs(deaf, 'routerChanged')).toBeLessThan(0.05)
  expect(ofThisHome(scenario.job, scenario.site, deaf, after(unit, 1)).notHere).toContain('router')
})
test('a light with one switch has no travelers to be mixed', () => {
  expect(weighs(unit, 'travelersMixed')).toBeLessThan(0.1)
  expect(ofThisHome(scenario.job, scenario.site, unit, after(unit, 1)).notHere).toContain('otherWay')
})
test('what it was called about before is likelier again', () => {
  const job = structuredClone(scenario.job)
  const closed = { id: 'before', unitId: unit.id, status: 'closed', causeId: 'looseJoint', cause: 'a loose joint' }
  job.callbacks.before = closed as never
  expect(weighs(unit, 'looseJoint', { job }) / weighs(unit, 'looseJoint')).toBeCloseTo(3)
  expect(ofThisHome(job, scenario.site, unit, after(unit, 1)).facts.map(({ words }) => words)).toContain(
    'it was called about before: a loose joint',
  )
})
test('while a tag hangs, a box is open, or a crew is there, it says so; after that it does not', () => {
  const { scenario } = wired()
  expect(atWork(scenario.job, scenario.site)).toMatch(/tag hangs on \{breaker\} 1\.$/)
  scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
  scenario.takeTagsOff()
  scenario.powerOn('1')
  expect(atWork(scenario.job, scenario.site)).toMatch(/is in the home\.$/)
  const [visit] = Object.values(scenario.job.visits)
  scenario.must(scenario.submitJob({ type: 'finishVisit', visitId: visit!.id }))
  expect(atWork(scenario.job, scenario.site)).toBeNull()
})
