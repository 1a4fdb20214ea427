import { batteryDue, monthSaid, runsOnBattery, usualBatteryYears } from '../fit'
import { homeSections } from '../handover/home-page'
import { tellingIn } from '../automation/describe'
import { inventedCode } from '../testing/codes'
import { crew, Scenario, testFile, testModel } from '../testing/scenario'
import { ofThisHome } from '../triage'
import { automatedHome, batteriesIn, devicesOut, handoverChecklist } from '.'
import { historyLine } from './history'

const remoteId = '01890000-0000-7000-a000-0000000000b1'
const remote = {
  ...testModel,
  id: remoteId,
  name: 'remote',
  kind: 'companion' as const,
  terminals: ['ground' as const],
  multiWay: 'companion' as const,
  battery: 'one CR2450',
  batteryYears: 2.5,
}
const main = { ...testModel, multiWay: 'companion' as const }

/** A light at the door that a remote at the stair switches, too. */
function withRemote(model: typeof remote = remote, join = true) {
  const door = { ...testFile.points[0]!, controls: [...testFile.points[0]!.controls, { box: 'stair', gang: 2 }] }
  const scenario = new Scenario({ ...testFile, points: [door] })
  const over = { model: (id: string) => (id === remoteId ? model : main) }
  const say = (command: Parameters<Scenario['submitJob']>[0], actor = crew.ann) => scenario.submitJob(command, actor, over)
  const [unitId, remoteUnit] = (['door', 'stair'] as const).map((name, index) => {
    const unitId = scenario.newId()
    const at = { boxId: scenario.box(name).id, gang: index + 1 }
    const modelId = index ? remoteId : main.id
    scenario.must(say({ type: 'chooseDevice', ...at, modelId, pointIds: [scenario.point('Door light').id] }))
    const setupCode = inventedCode(index + 1)
    scenario.must(say({ type: 'recordUnit', unitId, ...at, serial: `SN-20${index}`, setupCode, setupCodeAgain: '' }))
    if (join) {
      scenario.must(say({ type: 'recordPairing', unitId, result: 'joined', network: 'hall', signal: { kind: 'dbm', dbm: -55 }, note: '' }))
      scenario.must(say({ type: 'nameUnit', unitId, pointId: null, name: index ? 'Stair remote' : 'Hall light', despiteClash: false }))
    }
    return unitId
  }) as [string, string]
  return { scenario, say, unitId, remoteUnit }
}
const code = (answer: ReturnType<Scenario['submitJob']>) => (answer.ok ? null : answer.refusal.code)

test('when it is due, by the calendar: what its maker says, else what is usual; the last of a long month stays in the short one', () => {
  // By hand; usual years: common practice, no source.
  expect(batteryDue('2026-11-30T09:00:00.000Z', { batteryYears: 3 })).toBe('2029-11-30')
  expect(batteryDue('2026-08-31', { batteryYears: 2.5 })).toBe('2029-02-28')
  expect(batteryDue('2024-02-29', { batteryYears: null })).toBe(`${2024 + usualBatteryYears}-02-28`)
  expect(monthSaid('2029-02-28')).toBe('February 2029')
  expect([remote, main, { ...remote, battery: '' }, { ...main, battery: 'two AA' }].map(runsOnBattery)).toEqual([true, false, true, true])
})

test('the one it came with counts from the day it was recorded; a new one from the day somebody says, and the record says who', () => {
  const { scenario, say, unitId, remoteUnit } = withRemote()
  const [own, ...more] = batteriesIn(scenario.job)
  expect(more).toEqual([])
  expect(own).toMatchObject({ battery: 'one CR2450', fittedOn: null, dueOn: '2028-09-02', partnerOnWall: true })
  expect([own!.unit.id, own!.partner?.id]).toEqual([remoteUnit, unitId])
  const fit = (more: object) => say({ type: 'fitBattery', unitId: remoteUnit, battery: '', on: '2026-03-02', ...more }, crew.office)
  expect(code(fit({ unitId }))).toBe('noBattery')
  expect(code(fit({ unitId: scenario.newId() }))).toBe('noSuchUnit')
  expect(code(fit({ on: '2026-03-04' }))).toBe('dayAhead')
  expect(code(fit({ on: '2026-02-28' }))).toBe('dayBefore')
  scenario.now = Date.parse('2028-10-01T08:00:00.000Z')
  scenario.must(fit({ battery: 'one CR2477', on: '2028-09-30' }))
  expect(batteriesIn(scenario.job)).toMatchObject([{ battery: 'one CR2477', fittedOn: '2028-09-30', dueOn: '2031-03-30' }])
  const said = scenario.log.map((event) => historyLine(event, scenario.job, scenario.site, () => '').what)
  expect(said.join('\n')).toContain('put a battery into Stair remote (SN-201) on 2028-09-30: one CR2477')
})

test('the handover shows it, the household’s page says by when and what works without it, and what a swallowed cell does', () => {
  const { scenario } = withRemote()
  const item = handoverChecklist(scenario.job, scenario.site).find(({ id }) => id === 'batteries')!
  expect(item.why).toBe('Stair remote: one CR2450, by September 2028')
  const home = automatedHome(scenario.job, scenario.site, { zone: 'America/New_York', position: null })
  const telling = tellingIn('na120', 'en-US')
  const sections = homeSections(scenario.job, scenario.site, { home, telling, locale: 'en-US', telephone: '' })
  const { lines } = sections.find(({ id }) => id === 'batteries')!
  expect(lines[0]).toBe('Stair remote: one CR2450, by September 2028. Without it Hall light is switched at its own place.')
  expect(lines.at(-1)).toMatch(/swallow.*two hours.*emergency number/)
})

test('a remote that came out goes on speaking: it is not replaced before somebody has said what became of that', () => {
  const { scenario, say, remoteUnit } = withRemote()
  const callbackId = scenario.newId()
  const call = { what: 'the remote does nothing', since: '2026-03-01' }
  scenario.must(say({ type: 'openCallback', callbackId, unitId: remoteUnit, ...call }, crew.office))
  const found = { causeId: null, causeKind: 'device' as const, cause: 'its keys stick', confirmedBy: 'pressed ten times' }
  scenario.must(say({ type: 'diagnoseCallback', callbackId, ...found, remedy: 'replace', payer: 'maker' }))
  scenario.openAndTag(['1', '2'])
  scenario.conductors('stair', 'ABC')
  scenario.prove('stair')
  const swap = { type: 'replaceUnit' as const, callbackId, oldUnitId: remoteUnit, newUnitId: scenario.newId(), serial: 'SN-300' }
  const more = { oldUnitGoes: 'scrap' as const, setupCode: inventedCode(9), setupCodeAgain: '' }
  const refused = say({ ...swap, ...more })
  expect(code(refused)).toBe('stillSpeaks')
  expect(refused.ok ? '' : refused.refusal.reasons.join(' ')).toContain('telling Hall light what to do')
  scenario.must(say({ ...swap, ...more, oldUnitCleared: 'reset' }))
  expect(devicesOut(scenario.job)).toMatchObject([{ serial: 'SN-201', goes: 'scrap', stage: 'settled', cleared: 'reset' }])
  // The new one came with a battery of its own.
  expect(batteriesIn(scenario.job)).toMatchObject([{ unit: { serial: 'SN-300' }, fittedOn: null }])
})

test('on the telephone: an empty battery is the first thing thought of where one is due, and nothing where there is none', () => {
  const { scenario, unitId, remoteUnit } = withRemote()
  const weight = (id: string, now: string, cause = 'batteryEmpty') =>
    ofThisHome(scenario.job, scenario.site, scenario.job.units[id]!, now).facts.reduce((all, { weighs }) => all * (weighs[cause] ?? 1), 1)
  const [soon, late] = ['2026-04-01T08:00:00.000Z', '2028-10-01T08:00:00.000Z']
  expect(weight(remoteUnit, late)).toBeGreaterThan(weight(remoteUnit, soon) * 5)
  expect(weight(unitId, late)).toBeGreaterThan(3)
  expect(weight(remoteUnit, late, 'looseJoint')).toBeLessThan(0.1)
  const facts = ofThisHome(scenario.job, scenario.site, scenario.job.units[unitId]!, late).facts.map(({ words }) => words)
  expect(facts).toContain('the battery of Stair remote is due by September 2028')
  const alone = new Scenario()
  expect(batteriesIn(alone.job)).toEqual([])
})
