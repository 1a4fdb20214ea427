import { usualBehaviour, usualHabits } from '../automation/home'
import type { Routine } from '../automation/model.schema'
import { crew, Scenario } from '../testing/scenario'
import { automatedHome } from './automated-home'
import { automationOf } from './automation/state'

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
