import { crew, Scenario, testFile } from '../../testing/scenario'
import { annexRule, judgeCircuit, loopRuleOf } from '../../verification'
import { handoverChecklist } from '../index'
import { ranOut } from './words'
import type { VerifyCircuit } from './verify-circuit.schema'

const code = (result: ReturnType<Scenario['submitJob']>) => (result.ok ? 'accepted' : result.refusal.code)
const readings: VerifyCircuit['readings'] = {
  ...{
    curve: 'B',
    amps: 16,
    lookedUp: null,
    continuity: 0.4,
    insulation: 500,
    insulationVolts: 500,
    devicesIn: false,
    polarity: 'right',
    loop: 1.8,
  },
  residual: { milliamps: 30, kind: 'general', atOne: 22, atFive: 11, button: true },
}
const at230 = () => {
  const scenario = new Scenario(testFile)
  scenario.site.schemeId = 'iec230'
  for (const breaker of Object.values(scenario.site.breakers)) breaker.amps = 16
  return scenario
}
/** With a visit on, and its crew there. */
function working(scenario: Scenario): Scenario {
  const times = { startsAt: '2026-03-02T08:00:00.000Z', endsAt: '2026-03-02T10:00:00.000Z' }
  const visit = { visitId: scenario.newId(), kind: 'install' as const, callbackId: null, alsoBooked: false, personIds: [crew.ann.personId] }
  scenario.must(
    scenario.submitJob({ type: 'scheduleVisit', ...visit, ...times, windowFrom: times.startsAt, windowTo: times.endsAt }, crew.office),
  )
  return scenario
}
const verify = (scenario: Scenario, over: Partial<VerifyCircuit['readings']> = {}, who = crew.ann) => {
  const breakerId = scenario.box('door').breakerIds[0]!
  return scenario.submitJob(
    { type: 'verifyCircuit', breakerId, readings: { ...readings, ...over }, instrument: 'Tester, 4711', note: '' },
    who,
  )
}
const item = (scenario: Scenario, id: string) => handoverChecklist(scenario.job, scenario.site).find((one) => one.id === id)

test('readings are judged by the rule of the branch when they are stored, and what fails is stored as failing', () => {
  const scenario = working(at230())
  expect(scenario.site.schemeId).toBe('iec230')
  scenario.must(verify(scenario))
  const [stored] = Object.values(scenario.job.verified!)
  expect(stored).toMatchObject({ passed: true, share: annexRule.share, volts: 230, name: crew.ann.name })
  scenario.must(verify(scenario, { loop: 2.2, residual: null }))
  expect(Object.values(scenario.job.verified!)).toMatchObject([{ passed: false }])
  // By the other school it would pass: what is on paper is what was stored.
  expect(judgeCircuit({ ...readings, loop: 2.2, residual: null }, loopRuleOf('fourFifths')).every(({ result }) => result === 'pass')).toBe(
    true,
  )
})

test('only a licensed person of the crew, only a 230 V supply, only a breaker that is there', () => {
  const scenario = working(at230())
  expect(code(verify(scenario, {}, { ...crew.ann, licensed: false }))).toBe('notLicensed')
  const verification = { type: 'verifyCircuit' as const, readings, instrument: 'Tester, 4711', note: '' }
  expect(code(scenario.submitJob({ ...verification, breakerId: scenario.newId() }))).toBe('noSuchBreaker')
  expect(code(verify(working(new Scenario(testFile))))).toBe('otherScheme')
  const rated = scenario.site.breakers[scenario.box('door').breakerIds[0]!]!
  rated.amps = 32
  expect(code(verify(scenario))).toBe('otherRating')
  expect(code(verify(scenario, { amps: 32 }))).toBe('accepted')
})

test('on the handover: asked as a tick, and once it was begun each circuit of the work has to pass', () => {
  const scenario = working(at230())
  expect([item(scenario, 'verification')?.done, item(scenario, 'verified')]).toEqual([false, undefined])
  scenario.must(verify(scenario))
  expect(item(scenario, 'verification')).toBeUndefined()
  const worked = new Set(Object.values(scenario.site.boxes).flatMap(({ breakerIds }) => breakerIds))
  expect(item(scenario, 'verified')).toMatchObject({ done: worked.size <= 1, auto: true })
  // Opened again after it was measured: it is to be measured again.
  scenario.site.boxes[scenario.box('door').id]!.lastOpenedAt = '2999-01-01T00:00:00.000Z'
  expect(item(scenario, 'verified')!.why).toContain('was measured before door was opened again')
  scenario.site.boxes[scenario.box('door').id]!.lastOpenedAt = null
  scenario.must(verify(scenario, { insulation: 0.4 }))
  expect(item(scenario, 'verified')).toMatchObject({ done: false, why: expect.stringContaining('does not pass') })
  expect(item(working(new Scenario(testFile)), 'verification')).toBeUndefined()
})

test('a permit holds the handover until its inspector has released it; none that nobody spoke of does', () => {
  const scenario = working(new Scenario(testFile))
  const note = (state: 'applied' | 'granted' | 'hold' | 'released' | 'none', number: string) =>
    scenario.submitJob({ type: 'notePermit', state, number, note: '' }, crew.office)
  expect(item(scenario, 'permit')).toBeUndefined()
  expect(code(note('granted', ''))).toBe('noNumber')
  scenario.must(note('applied', ''))
  expect(item(scenario, 'permit')).toMatchObject({ done: false, why: 'no number yet, applied for' })
  scenario.must(note('hold', 'P 12'))
  expect(item(scenario, 'permit')).toMatchObject({ done: false, why: 'P 12, waits for the inspector' })
  scenario.must(note('released', 'P 12'))
  expect(item(scenario, 'permit')).toMatchObject({ done: true })
  scenario.must(note('none', ''))
  expect(item(scenario, 'permit')).toBeUndefined()
})
test('the day of a permit is what its state says, and none without one; one that ran out is told', () => {
  const scenario = working(new Scenario(testFile))
  const note = (state: 'granted' | 'hold' | 'none', on?: string) =>
    scenario.must(scenario.submitJob({ type: 'notePermit', state, number: 'P 12', note: '', ...(on ? { on } : {}) }, crew.office))
  note('hold', '2026-12-04')
  expect(scenario.job.permit).toMatchObject({ state: 'hold', on: '2026-12-04' })
  note('granted', '2026-12-31')
  expect([ranOut(scenario.job.permit!, '2026-12-31'), ranOut(scenario.job.permit!, '2027-01-01')]).toEqual([false, true])
  note('hold')
  expect(scenario.job.permit!.on).toBeNull()
  expect(ranOut(scenario.job.permit!, '2030-01-01')).toBe(false)
  note('none', '2026-12-04')
  expect(scenario.job.permit!.on).toBeNull()
})
