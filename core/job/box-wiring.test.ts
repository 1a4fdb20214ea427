import { crew, Scenario, testFile, testModel } from '../testing/scenario'
import { emptyPlan, knownCables, nextTest, proposePlan, type WireReading } from '../wiring'
import { practiceBoxes, practiceMeter } from '../wiring/practice'
import { readToTheEnd } from '../wiring/practice/read-to-the-end'
import { boxDrawing } from '../wiring/drawing'
import { branchSettingsSchema } from '../units'
import {
  openAtOtherBoxes,
  findingsOf,
  predictedAndSeen,
  asFoundBoxOf,
  historyLine,
  matesOf,
  notedAtOtherBoxes,
  planIsRed,
  plannedDevices,
  proveTogether,
  stepDone,
  stepsFor,
  stepsToUndo,
  testedLights,
  wiringOf,
} from './index'

const refused = (result: ReturnType<Scenario['submitJob']>) => (result.ok ? 'accepted' : result.refusal.code)
/** A job whose box is wired like a practice box, on breaker 1. */
function described(id = 'tide-room', file = { ...testFile, boxes: [testFile.boxes[0]!], points: [testFile.points[0]!] }) {
  const practice = practiceBoxes.find((box) => box.id === id)!
  const scenario = new Scenario(file)
  const visitId = scenario.newId()
  const at = '2026-03-02T08:00:00.000Z'
  const later = '2026-03-02T10:00:00.000Z'
  scenario.must(
    scenario.submitJob(
      {
        type: 'scheduleVisit',
        visitId,
        kind: 'install',
        callbackId: null,
        startsAt: at,
        endsAt: later,
        windowFrom: at,
        windowTo: later,
        personIds: [crew.ann.personId, crew.ben.personId],
      },
      crew.office,
    ),
  )
  scenario.must(scenario.submitJob({ type: 'arrive', visitId }))
  const boxId = scenario.box('door').id
  scenario.openAndTag(['1'])
  const conductors = practice.found.cables.flatMap((cable) =>
    cable.cores.map((core) => ({
      letter: core.letter,
      colour: core.colour as 'black',
      gaugeAwg: 14 as const,
      areaMm2: null,
      cable: cable.id,
      course: 'ends' as const,
    })),
  )
  scenario.must(scenario.submitSite({ type: 'recordConductors', boxId, conductors }))
  const { farSwitches, splices, oldSwitches, complete } = practice.found
  const notes = { farSwitches, splices, oldSwitches, complete }
  return { scenario, boxId, practice, notes }
}
/** The hidden box has breaker 11; this site has breaker 1. */
const readAt = (practice: (typeof practiceBoxes)[number], test: Omit<WireReading, 'value'>): WireReading => {
  const meter = practiceMeter(practice, 5)
  return { ...meter.read({ ...test, closed: test.closed.length ? ['11'] : [] }), closed: test.closed }
}

test('the bench is part of the record: described, read dead, read live, established, laid, and told in the history', () => {
  const { scenario, boxId, practice, notes } = described()
  const reading: WireReading = { kind: 'continuity', a: 'A', b: 'REF', closed: [], far: [], value: 0.3 }
  expect(refused(scenario.submitJob({ type: 'readWires', boxId, readings: [reading] }))).toBe('notDescribed')
  expect(refused(scenario.submitJob({ type: 'noteFound', boxId, notes: { ...notes, splices: [['A', 'Q']] } }))).toBe('noSuchConductor')
  scenario.must(scenario.submitJob({ type: 'noteFound', boxId, notes }))
  expect(refused(scenario.submitJob({ type: 'readWires', boxId, readings: [reading] }))).toBe('notProven')
  scenario.prove('door')
  expect(refused(scenario.submitJob({ type: 'readWires', boxId, readings: [{ ...reading, a: 'Q' }] }))).toBe('noSuchConductor')
  expect(refused(scenario.submitJob({ type: 'readWires', boxId, readings: [{ ...reading, far: [0] }] }))).toBe('positionMissing')

  const found = asFoundBoxOf(scenario.site, scenario.site.boxes[boxId]!, notes)
  if (!found.ok) throw new Error(found.reason)
  const next = (energised: boolean) => {
    const advice = nextTest(found.found, wiringOf(scenario.job, boxId).readings, energised, { apart: true })
    return advice.done ? null : advice.next
  }
  for (let step = next(false); step && !step.energised; step = next(false))
    scenario.must(scenario.submitJob({ type: 'readWires', boxId, readings: step.tests.map((test) => readAt(practice, test)) }))
  const live = next(false)!
  const liveReadings = live.tests.map((test) => readAt(practice, test))
  expect(live.energised).toBe(true)
  expect(refused(scenario.submitJob({ type: 'readWires', boxId, readings: liveReadings }))).toBe('notAnnounced')
  expect(refused(scenario.submitJob({ type: 'establishRole', boxId, letter: 'B', role: 'line', method: 'readings' }))).toBe(
    'notEstablished',
  )

  // A device has no room for the identification: it keeps what its bench just worked out, and the server judges it.
  expect(
    refused(
      scenario.submitJob({ type: 'establishRole', boxId, letter: 'B', role: 'line', method: 'readings' }, crew.ann, { findings: null }),
    ),
  ).toBe('accepted')
  scenario.job.boxes[boxId]!.roles = {}

  // Power for a moment: clear, closed, measured by the licensed person with a warned mate.
  const askId = scenario.newId()
  scenario.must(scenario.submitSite({ type: 'askEnergise', askId, breakerId: scenario.breaker('1').id, purpose: 'identify', note: '' }))
  scenario.must(scenario.submitSite({ type: 'confirmClear', askId }))
  const grantId = scenario.newId()
  scenario.must(scenario.submitSite({ type: 'startMeasuring', measureId: scenario.newId(), boxId, warnedIds: [crew.ben.personId] }))
  expect(refused(scenario.submitJob({ type: 'readWires', boxId, readings: liveReadings }))).toBe('breakersDiffer')
  scenario.must(scenario.submitSite({ type: 'requestClose', grantId, breakerId: scenario.breaker('1').id, clearanceId: askId }))
  scenario.must(scenario.submitSite({ type: 'answerPermit', grantId, answer: 'closed' }))
  expect(refused(scenario.submitJob({ type: 'readWires', boxId, readings: [reading] }))).not.toBe('accepted')
  for (let step = next(true); step; step = next(true))
    scenario.must(scenario.submitJob({ type: 'readWires', boxId, readings: step.tests.map((test) => readAt(practice, test)) }))

  expect(findingsOf(scenario.job, scenario.site, boxId)!.wires.every((wire) => wire.settled ?? wire.joint)).toBe(true)
  // White is the line here, red the neutral: colours did not decide.
  expect(refused(scenario.submitJob({ type: 'establishRole', boxId, letter: 'B', role: 'neutral', method: 'readings' }))).toBe(
    'notEstablished',
  )
  scenario.must(scenario.submitJob({ type: 'establishRole', boxId, letter: 'B', role: 'line', method: 'readings' }))
  scenario.must(scenario.submitJob({ type: 'establishRole', boxId, letter: 'A', role: 'neutral', method: 'readings' }))
  expect(scenario.job.boxes[boxId]!.roles).toMatchObject({ B: { role: 'line', method: 'readings' }, A: { role: 'neutral' } })

  scenario.must(scenario.submitJob({ type: 'chooseDevice', boxId, gang: 1, modelId: testModel.id, pointIds: [] }))
  expect(plannedDevices(scenario.job, boxId)[0]!.model.contacts).toEqual([{ channel: 0, from: 'line', to: 'load', when: 1 }])
  const plan = {
    ...emptyPlan,
    devices: [{ gang: 1, terminals: { line: ['B'], load: ['E'], neutral: ['A'], ground: ['C'] } }],
    splices: [
      { letters: ['A', 'D'], holds: 4 },
      { letters: ['C', 'F'], holds: 4 },
    ],
    feeds: [{ letter: 'E', pointId: scenario.point('Door light').id }],
  }
  expect(refused(scenario.submitJob({ type: 'planWiring', boxId, plan: { ...plan, capped: ['Q'] } }))).toBe('noSuchConductor')
  expect(refused(scenario.submitJob({ type: 'planWiring', boxId, plan: { ...plan, jumpers: [{ from: 'Q', to: 'gang1:line' }] } }))).toBe(
    'noSuchConductor',
  )
  scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan }))
  // Who had not seen that plan does not lay over it unseen; who laid it goes on.
  const unseen = { jobSeq: scenario.job.seq - 1 }
  expect(refused(scenario.submitJob({ type: 'planWiring', boxId, plan: null }, crew.ben, unseen))).toBe('planChanged')
  scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan }, crew.ann, unseen))
  scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan }, crew.ben))
  // A ground under a cap: the server sees it, and nothing is connected by such a plan.
  scenario.must(
    scenario.submitJob({ type: 'planWiring', boxId, plan: { ...plan, splices: plan.splices.slice(0, 1), capped: ['F'] } }, crew.ben),
  )
  expect(wiringOf(scenario.job, boxId).planned?.against).toEqual(['groundMissing'])
  expect(stepsFor(scenario.job, scenario.site, boxId, 1, branchSettingsSchema.parse({}))).toEqual([])
  scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan }, crew.ben))
  expect(wiringOf(scenario.job, boxId).planned?.against).toBeUndefined()
  // The steps at the device say what was laid, not what the roles alone would suggest.
  expect(
    stepsFor(scenario.job, scenario.site, boxId, 1, branchSettingsSchema.parse({})).find((step) => step.id === 'connect:neutral'),
  ).toMatchObject({
    text: 'Pigtail from A + D to neutral. Bottomed, under the clamp, no copper showing; tug it.',
    letters: ['A'],
  })
  const rows = [{ positions: { gang1: 1 }, lights: { light1: 'on' as const }, trips: [] }]
  expect(refused(scenario.submitJob({ type: 'observeFunctions', boxId, rows }))).toBe('boxOpen')

  // Closed up, power back: what is seen stands beside what was predicted.
  scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', note: '' }))
  const tag = Object.values(scenario.site.tags)[0]!
  scenario.must(scenario.submitSite({ type: 'rehangTag', tagId: tag.id }))
  scenario.prove('door')
  scenario.must(scenario.submitSite({ type: 'closeBox', boxId }))
  expect(refused(scenario.submitJob({ type: 'observeFunctions', boxId, rows }))).toBe('tagHangs')
  scenario.takeTagsOff()
  scenario.powerOn('1')
  scenario.must(scenario.submitJob({ type: 'observeFunctions', boxId, rows }))
  expect(predictedAndSeen(scenario.job, scenario.site, boxId)).toEqual([
    { position: 'device on', light: 'light on E', predicted: 'on', seen: 'on' },
  ])
  // The functional tests of its point stand in the same comparison.
  const test = { type: 'testPoint' as const, pointId: scenario.point('Door light').id }
  scenario.must(scenario.submitJob({ ...test, checkId: 'on:0', result: 'pass', note: '' }))
  scenario.must(scenario.submitJob({ ...test, checkId: 'off:0', result: 'fail', note: 'stays on' }))
  expect(testedLights(scenario.job, scenario.site, boxId)).toEqual([
    { letter: 'E', wanted: 'on', far: null, passed: true },
    { letter: 'E', wanted: 'off', far: null, passed: false },
  ])
  expect(predictedAndSeen(scenario.job, scenario.site, boxId)).toEqual([
    { position: 'device on', light: 'light on E', predicted: 'on', seen: 'on' },
    { position: 'device off', light: 'light on E', predicted: 'off', seen: 'on' },
  ])

  const lines = scenario.log.map((event) => historyLine(event, scenario.job, scenario.site, () => 'Ann').what)
  expect(lines).toContain('described door as found: 2 splices, 1 old switch')
  expect(lines.some((line) => line.startsWith('read ') && line.includes('at door, with 1 closed'))).toBe(true)
  expect(lines).toContain('planned the wiring of door')

  const drawing = boxDrawing('door', found.found, { B: 'line' }, plan)
  expect(drawing).toContain('<svg')
  expect(drawing).toContain('>line<')

  scenario.must(scenario.submitJob({ type: 'forgetReadings', boxId, reason: 'wrong box' }))
  expect(wiringOf(scenario.job, boxId)).toMatchObject({ readings: [], plan: null })
})

test('a box whose feed is not known, or that is too large, is said to be so', () => {
  const { scenario, boxId, notes } = described()
  const box = scenario.site.boxes[boxId]!
  expect(asFoundBoxOf(scenario.site, { ...box, unknownFeed: true }, notes)).toMatchObject({ ok: false })
  expect(asFoundBoxOf(scenario.site, { ...box, conductors: [] }, notes)).toMatchObject({ ok: false })
  const many = [...'ABCDEFG'].map((letter) => ({ ...box.conductors[0]!, letter }))
  expect(asFoundBoxOf(scenario.site, { ...box, conductors: many }, notes)).toMatchObject({ ok: false })
})

describe('boxes that switch a light together are one wiring', () => {
  const door = testFile.boxes[0]!
  const pair = {
    ...testFile,
    boxes: [door, { ...door, key: 'landing', name: 'landing' }],
    points: [
      {
        ...testFile.points[0]!,
        controls: [
          { box: 'door', gang: 1 },
          { box: 'landing', gang: 1 },
        ],
      },
    ],
  }
  const method = branchSettingsSchema.parse({})
  /** The box at the door read to the end, its device chosen, the companion of the other place chosen. */
  function grouped() {
    const { scenario, boxId, practice, notes } = described('back-stairs', pair)
    const { readings } = readToTheEnd(practice, 3)
    const on1 = readings.map((reading) => ({ ...reading, closed: reading.closed.map(() => '1') }))
    scenario.must(scenario.submitJob({ type: 'noteFound', boxId, notes }))
    scenario.job.boxes[boxId]!.wiring!.readings = on1
    const landing = scenario.box('landing').id
    const dimmer = {
      ...testModel,
      terminals: ['ground', 'neutral', 'load', 'line', 'sense'] as typeof testModel.terminals,
      multiWay: 'companion' as const,
    }
    const companion = {
      ...dimmer,
      id: scenario.newId(),
      kind: 'companion' as const,
      terminals: ['ground', 'neutral', 'sense'] as typeof testModel.terminals,
    }
    const choose = (at: string, model: typeof testModel, pointIds: string[]) =>
      scenario.must(
        scenario.submitJob({ type: 'chooseDevice', boxId: at, gang: 1, modelId: model.id, pointIds }, crew.ann, { model: () => model }),
      )
    choose(boxId, dimmer, [scenario.point('Door light').id])
    choose(landing, companion, [])
    const found = asFoundBoxOf(scenario.site, scenario.site.boxes[boxId]!, notes)
    if (!found.ok) throw new Error(found.reason)
    const cables = knownCables(found.found, findingsOf(scenario.job, scenario.site, boxId)!)!
    const plan = proposePlan(found.found, cables, plannedDevices(scenario.job, boxId), {
      loads: practice.loads,
      otherLocation: 'companion',
    })
    const stepsAt = (at: string) => stepsFor(scenario.job, scenario.site, at, 1, method)
    return { scenario, boxId, landing, plan, stepsAt }
  }
  test('what the plan of one wants done at the other is a step there, with the conductors by their colours', () => {
    const { scenario, boxId, landing, plan, stepsAt } = grouped()
    expect(stepsAt(landing)).toEqual([])
    scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan }))
    expect(wiringOf(scenario.job, boxId).planned?.against).toBeUndefined()
    const words = stepsAt(landing).map(({ text }) => text)
    expect(words).toHaveLength(2)
    expect(words[0]).toMatch(/^Take the common off and splice it with the (black|red) conductor from door \([DE] there\)\.$/)
    expect(words[1]).toMatch(
      /^The companion takes the (black|red) conductor from door \([DE] there\) and the neutral the white conductor from door \(F there\)\./,
    )
    // At the box of the plan nothing of it is told twice.
    expect(
      stepsAt(boxId)
        .map(({ text }) => text)
        .join(),
    ).not.toContain('companion takes')
    expect(openAtOtherBoxes(scenario.job, boxId)).toBe(false)
  })
  test('they are ticked there, under a proof there; another plan asks to undo them', () => {
    const { scenario, boxId, landing, plan, stepsAt } = grouped()
    scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan }))
    const [step] = stepsAt(landing)
    const tick = (done = true) => scenario.submitJob({ type: 'markStep', boxId: landing, gang: 1, stepId: step!.id, done })
    expect(refused(tick())).toBe('notProven')
    scenario.conductors('landing', 'ABCD')
    scenario.prove('landing')
    scenario.must(tick())
    expect(stepDone(scenario.job, landing, 1, step!)).toMatchObject({ by: 'AT' })
    const other = structuredClone(plan)
    const [place] = other.elsewhere
    Object.assign(place!, { through: place!.sense, sense: place!.through })
    scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan: other }))
    expect(stepDone(scenario.job, landing, 1, step!) && stepsAt(landing).some(({ text }) => text === step!.text)).toBeFalsy()
    expect(stepsToUndo(scenario.job, landing, 1, stepsAt(landing))).toMatchObject([{ id: step!.id, by: 'AT' }])
    scenario.must(tick(false))
    expect(stepsToUndo(scenario.job, landing, 1, stepsAt(landing))).toEqual([])
  })
  test('one plan for one wiring: none is laid at a box whose plan stands elsewhere', () => {
    const { scenario, boxId, landing, plan } = grouped()
    const own = { type: 'planWiring' as const, boxId: landing, plan: emptyPlan }
    scenario.must(scenario.submitJob(own))
    scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan }))
    expect(refused(scenario.submitJob(own))).toBe('plannedElsewhere')
    // What was laid before may always be taken away.
    scenario.must(scenario.submitJob({ ...own, plan: null }))
    scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan: null }))
    scenario.must(scenario.submitJob(own))
  })
  test('laid without network: the other place says that its steps are still to come', () => {
    const { scenario, boxId, landing, plan, stepsAt } = grouped()
    scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan }, crew.ann, { judgePlan: null }))
    expect(openAtOtherBoxes(scenario.job, boxId)).toBe(true)
    expect(stepsAt(landing)).toEqual([])
  })
  test('what is proven of a group: covered by the one plan, open while the other is not laid or known, alone without one', () => {
    const { scenario, boxId, plan } = grouped()
    const mates = matesOf(scenario.job, scenario.site, boxId)
    expect(mates.map(({ name, plan: laid }) => [name, laid])).toEqual([['landing', null]])
    const { notes } = wiringOf(scenario.job, boxId)
    const found = asFoundBoxOf(scenario.site, scenario.site.boxes[boxId]!, notes!)
    if (!found.ok) throw new Error(found.reason)
    const cables = knownCables(found.found, findingsOf(scenario.job, scenario.site, boxId)!)!
    const own = { name: 'door', found: found.found, cables, plan, devices: plannedDevices(scenario.job, boxId), loads: [] }
    expect(proveTogether(own, mates)).toEqual({ kind: 'covered', names: ['landing'] })
    expect(proveTogether({ ...own, plan: { ...plan, elsewhere: [] } }, mates)).toEqual({ kind: 'open', names: ['landing'] })
    expect(proveTogether(own, [])).toEqual({ kind: 'alone' })
  })
  test('what stands against all plans as one holds every box of the group, until one of them is laid anew', () => {
    const { scenario, boxId, landing, plan } = grouped()
    const own = { type: 'planWiring' as const, boxId: landing, plan: emptyPlan }
    scenario.must(scenario.submitJob(own, crew.ann, { judgePlan: () => ({ against: [], elsewhere: [], together: [] }) }))
    const wrong = () => ({ against: [], elsewhere: [], together: ['noPower' as const] })
    scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan }, crew.ann, { judgePlan: wrong }))
    expect([planIsRed(scenario.job, boxId), planIsRed(scenario.job, landing)]).toEqual([true, true])
    expect(stepsFor(scenario.job, scenario.site, boxId, 1, method)).toEqual([])
    scenario.must(
      scenario.submitJob({ type: 'planWiring', boxId, plan }, crew.ann, {
        judgePlan: () => ({ against: [], elsewhere: [], together: [] }),
      }),
    )
    expect([planIsRed(scenario.job, boxId), planIsRed(scenario.job, landing)]).toEqual([false, false])
  })
  test('a plan that something stands against brings no steps there either', () => {
    const { scenario, boxId, landing, plan, stepsAt } = grouped()
    const deaf = structuredClone(plan)
    deaf.elsewhere[0]!.neutral = null
    scenario.must(scenario.submitJob({ type: 'planWiring', boxId, plan: deaf }))
    expect(wiringOf(scenario.job, boxId).planned?.against).toContain('noPower')
    expect(stepsAt(landing)).toEqual([])
  })
})

test('what watches a circuit and how old the wiring is are noted once, at the first of its boxes', () => {
  const scenario = new Scenario()
  scenario.openAndTag(['1'])
  scenario.conductors('door', 'AB')
  const door = scenario.box('door').id
  const notes = {
    farSwitches: 0,
    splices: [],
    oldSwitches: [],
    complete: true,
    wiredYear: 1984,
    guards: { 1: 'arcFault' as const, 2: 'none' as const },
  }
  scenario.must(scenario.submitJob({ type: 'noteFound', boxId: door, notes }))
  // The stair hangs on 1 and 2, the door on 1 alone: of 2 nothing was looked at there that counts here.
  expect(notedAtOtherBoxes(scenario.job, scenario.site, scenario.box('stair').id)).toEqual({ guards: { 1: 'arcFault' }, wiredYear: 1984 })
  expect(notedAtOtherBoxes(scenario.job, scenario.site, scenario.box('attic').id)).toEqual({ guards: {}, wiredYear: 1984 })
  expect(notedAtOtherBoxes(scenario.job, scenario.site, door)).toEqual({ guards: {}, wiredYear: null })
})
