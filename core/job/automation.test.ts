import { usualBehaviour, usualHabits } from '../automation/home'
import type { Routine } from '../automation/model.schema'
import { crew, Scenario } from '../testing/scenario'
import { automatedHome } from './automated-home'
import { automationOf } from './automation/automation-of'

const same = { runs: 'hub' as const, paused: false, modes: [] }
type Pair = Extract<Routine, { kind: 'pair' }>
const evening = (scenario: Scenario, more: Partial<Pair> = {}): Pair => ({
  ...{ ...same, id: scenario.newId(), name: 'Evening', kind: 'pair', deviceIds: [Object.keys(scenario.job.points)[0]!] },
  ...{ on: { at: 'sunset', offset: 0 }, off: { at: 'clock', minute: 1380 }, days: [1, 2, 3, 4, 5, 6, 7], date: null, level: null },
  ...more,
})

describe('what a home does by itself, in its record', () => {
  test('set, changed, paused, deleted; told in history', () => {
    const scenario = new Scenario()
    const routine = evening(scenario)
    scenario.must(scenario.submitJob({ type: 'setRoutine', routine }))
    scenario.must(scenario.submitJob({ type: 'setRoutine', routine: { ...routine, paused: true } }))
    expect(automationOf(scenario.job).routines[routine.id]).toMatchObject({ routine: { paused: true } })
    scenario.must(scenario.submitJob({ type: 'dropRoutine', routineId: routine.id }))
    expect(automationOf(scenario.job).routines).toEqual({})
    expect(scenario.submitJob({ type: 'dropRoutine', routineId: routine.id })).toMatchObject({
      ok: false,
      refusal: { code: 'noSuchRoutine' },
    })
  })
  test('no two of one name, none without a day, none that goes on and off at once', () => {
    const scenario = new Scenario()
    scenario.must(scenario.submitJob({ type: 'setRoutine', routine: evening(scenario) }))
    const code = (routine: Routine) => {
      const answer = scenario.submitJob({ type: 'setRoutine', routine })
      return answer.ok ? 'taken' : answer.refusal.code
    }
    expect(code(evening(scenario, { name: 'EVENING' }))).toBe('nameTaken')
    expect(code(evening(scenario, { name: 'a', days: [] }))).toBe('noDay')
    expect(code(evening(scenario, { name: 'b', off: { at: 'sunset', offset: 0 } }))).toBe('onIsOff')
    const rule = { ...same, id: scenario.newId(), name: 'c', kind: 'rule' as const, only: [], then: [{ do: 'tell' as const, text: 'now' }] }
    expect(code({ ...rule, when: [{ is: 'time', moment: { at: 'clock', minute: 1 }, days: [], date: null }] })).toBe('noDay')
    expect(code(evening(scenario, { name: 'd', days: [], date: '2026-12-24' }))).toBe('taken')
  })
  test('whoever had not seen a mate’s change does not undo it', () => {
    const scenario = new Scenario()
    const routine = evening(scenario)
    scenario.must(scenario.submitJob({ type: 'setRoutine', routine }, crew.ann))
    const seen = scenario.job.seq
    scenario.must(scenario.submitJob({ type: 'setRoutine', routine: { ...routine, level: 40 } }, crew.ben))
    const late = scenario.submitJob({ type: 'setRoutine', routine: { ...routine, level: 70 } }, crew.ann, { jobSeq: seen })
    expect(late).toMatchObject({ ok: false, refusal: { code: 'changedMeanwhile', reasons: ['BT changed “Evening” meanwhile.'] } })
    expect(automationOf(scenario.job).routines[routine.id]!.routine).toMatchObject({ level: 40 })
  })
  test('a behaviour is of a point that is there, a sensor of a room that is', () => {
    const scenario = new Scenario()
    const [pointId] = Object.keys(scenario.job.points)
    scenario.must(scenario.submitJob({ type: 'setBehaviour', deviceId: pointId!, behaviour: { ...usualBehaviour, powerOn: 'on' } }))
    expect(scenario.submitJob({ type: 'setBehaviour', deviceId: scenario.newId(), behaviour: usualBehaviour })).toMatchObject({ ok: false })
    const sensor = { id: scenario.newId(), name: 'Eye', kind: 'motion' as const, roomId: scenario.newId() }
    expect(scenario.submitJob({ type: 'setSensor', sensor })).toMatchObject({ ok: false, refusal: { code: 'noSuchRoom' } })
    scenario.must(scenario.submitJob({ type: 'setSensor', sensor: { ...sensor, roomId: null } }))
    expect(scenario.submitJob({ type: 'setSensor', sensor: { ...sensor, id: scenario.newId(), roomId: null } })).toMatchObject({
      ok: false,
    })
    scenario.must(scenario.submitJob({ type: 'setHabits', habits: { ...usualHabits, declined: ['location', 'location'] } }))
    expect(automationOf(scenario.job).habits!.declined).toEqual(['location'])
  })
  test('a home that nobody said anything of is lived in as usual, and what must run by its survey must run here', () => {
    const scenario = new Scenario()
    expect(automatedHome(scenario.job, scenario.site, { zone: 'UTC', position: null })).toMatchObject({
      devices: [],
      routines: [],
      habits: usualHabits,
    })
  })
})

test('a monitor has lines on both sides and an effect beside its watts; its alert is tried, and tried anew with other lines', () => {
  const scenario = new Scenario()
  const [deviceId] = Object.keys(scenario.job.points) as [string]
  const baseline = { watts: 95, spread: 3, memory: 0.2, every: 60, start: null, startReadings: 0, readings: 900 }
  const monitor = { low: 70, high: 120, readings: 3, every: 60, repeat: 3600 }
  const effect = { what: 'airflow at the grille', value: '2.1 m/s' }
  const keep = (more: object = {}) => scenario.submitJob({ type: 'keepBaseline', deviceId, baseline, monitor, effect, ...more })
  const check = (more: object = {}) =>
    scenario.submitJob({ type: 'checkAlert', deviceId, check: 'arrived', result: 'pass', note: '', ...more })
  const code = (answer: ReturnType<typeof keep>) => (answer.ok ? 'taken' : answer.refusal.code)
  expect(code(check())).toBe('noMonitor')
  expect(code(keep({ monitor: { ...monitor, low: 96 } }))).toBe('linesWrong')
  expect(code(keep({ effect: { what: 'airflow', value: '' } }))).toBe('noEffect')
  expect(code(keep({ deviceId: scenario.newId() }))).toBe('noSuchPoint')
  expect(code(keep())).toBe('taken')
  expect(code(check({ result: 'fail' }))).toBe('noteMissing')
  expect(code(check())).toBe('taken')
  expect(automationOf(scenario.job).monitors[deviceId]!.checks).toMatchObject({ arrived: { result: 'pass', by: 'AT' } })
  expect(code(keep({ monitor: { ...monitor, low: 60 } }))).toBe('taken')
  expect(automationOf(scenario.job).monitors[deviceId]!.checks).toEqual({})
})
