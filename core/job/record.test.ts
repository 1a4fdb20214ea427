import { understood } from '../stream'
import { jobStream } from './stream'
import { atServer } from '../site'
import { inventedCode } from '../testing/codes'
import { workLeft } from '../dispatch/work'
import { carryWords, modelsToCarry } from '../triage'
import { byHand, crew, Scenario, testFile, testModel } from '../testing/scenario'
import { branchSettingsSchema } from '../units'
import {
  inDoubtAt,
  checksFor,
  daysAfter,
  devicesOut,
  handoverChecklist,
  handoverObstacles,
  jobStatus,
  namedIn,
  needsPlan,
  pointStatus,
  seenWiresOut,
  stepDone,
  stepsFor,
  stepsToUndo,
  testResults,
  type JobState,
} from './index'
import type { Call } from './callback/call.schema'
import { jobSentence } from './summary'
import { setNeedsInput } from './visit/set-needs.schema'
import { historyLine } from './history'

const refused = (result: ReturnType<Scenario['submitJob']>) => (result.ok ? 'accepted' : result.refusal.code)
const times = {
  startsAt: '2026-03-02T08:00:00.000Z',
  endsAt: '2026-03-02T10:00:00.000Z',
  windowFrom: '2026-03-02T08:00:00.000Z',
  windowTo: '2026-03-02T09:00:00.000Z',
}
const single = { ...testFile, boxes: [testFile.boxes[0]!], points: [testFile.points[0]!] }
const point = (scenario: Scenario) => Object.values(scenario.job.points)[0]!

function visited(file = single): { scenario: Scenario; visitId: string } {
  const scenario = new Scenario(file)
  const visitId = scenario.newId()
  scenario.must(
    scenario.submitJob(
      { type: 'scheduleVisit', visitId, kind: 'install', callbackId: null, ...times, personIds: [crew.ann.personId, crew.ben.personId] },
      crew.office,
    ),
  )
  scenario.must(scenario.submitJob({ type: 'arrive', visitId }))
  return { scenario, visitId }
}
/** Box wired, closed, power back: ready to be tested. */
function wired(file = single): { scenario: Scenario; visitId: string; unitId: string } {
  const { scenario, visitId } = visited(file)
  scenario.openAndTag(['1'])
  scenario.conductors('door', 'ABCD')
  scenario.prove('door')
  const unitId = scenario.wire('door', 1, ['Door light'], 'SN-001', inventedCode(1))
  scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
  scenario.takeTagsOff()
  scenario.powerOn('1')
  return { scenario, visitId, unitId }
}
function passAll(scenario: Scenario, except: string[] = []): void {
  for (const check of checksFor(scenario.job, scenario.site, point(scenario))) {
    const fails = except.includes(check.kind)
    scenario.must(
      scenario.submitJob({
        type: 'testPoint',
        pointId: point(scenario).id,
        checkId: check.id,
        result: fails ? 'fail' : 'pass',
        note: fails ? 'stays on' : '',
      }),
    )
  }
}
const pair = (scenario: Scenario, unitId: string) => {
  scenario.must(
    scenario.submitJob({ type: 'recordPairing', unitId, result: 'joined', network: 'home', signal: { kind: 'dbm', dbm: -60 }, note: '' }),
  )
  scenario.must(scenario.submitJob({ type: 'nameUnit', unitId, name: 'Door light', despiteClash: false }))
}
const tickAll = (scenario: Scenario) => {
  for (const item of handoverChecklist(scenario.job, scenario.site))
    if (!item.auto)
      scenario.must(scenario.submitJob({ type: 'tickHandover', itemId: item.id, done: true, rests: 'seen', photoId: null, note: '' }))
}
const sign = (scenario: Scenario, acceptedDefectIds: string[] = []) =>
  scenario.submitJob({
    type: 'signHandover',
    signatureId: scenario.newId(),
    signer: 'C. Test',
    strokes: [
      [
        [0.1, 0.1],
        [0.5, 0.5],
      ],
    ],
    acceptedDefectIds,
  })

describe('work is locked until the box is proven dead', () => {
  test('roles and steps are refused before, taken while proven, refused again after the proof ends', () => {
    const { scenario } = visited()
    const boxId = scenario.box('door').id
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCD')
    const role = () => scenario.submitJob({ type: 'establishRole', boxId, letter: 'A', ...byHand('line') })
    expect(refused(role())).toBe('notProven')
    scenario.prove('door')
    expect(refused(role())).toBe('accepted')
    scenario.must(scenario.submitJob({ type: 'chooseDevice', boxId, gang: 1, modelId: testModel.id, pointIds: [point(scenario).id] }))
    const step = () => scenario.submitJob({ type: 'markStep', boxId, gang: 1, stepId: 'prep', done: true })
    expect(refused(step())).toBe('accepted')
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'closed', note: '' }, crew.ben))
    expect([refused(role()), refused(step())]).toEqual(['notIsolated', 'notIsolated'])
  })
  test('an apprentice does not establish a role by measuring live', () => {
    const { scenario } = visited()
    scenario.openAndTag(['1'], crew.ida)
    scenario.conductors('door', 'ABCD')
    const proofId = scenario.prove('door', crew.ida)
    scenario.must(scenario.submitSite({ type: 'witnessProof', proofId }, crew.ann))
    const role = (how: object) =>
      refused(scenario.submitJob({ type: 'establishRole', boxId: scenario.box('door').id, letter: 'A', ...how }, crew.ida))
    expect([role(byHand('line')), role(byHand('ground'))]).toEqual(['licenceNeeded', 'accepted'])
  })
  test('a line and a neutral are told by live readings only, and the readings must say so', () => {
    const { scenario } = visited()
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCD')
    scenario.prove('door')
    const role = (role: string, method: string, volts: number[] = [], ohms: number | null = null) =>
      refused(
        scenario.submitJob({ type: 'establishRole', boxId: scenario.box('door').id, letter: 'A', role, method, volts, ohms } as never),
      )
    for (const method of ['oldTerminal', 'traced', 'continuity'])
      expect([role('line', method, [120, 120], 0.4), role('neutral', method, [120, 0], 0.4)]).toEqual([
        'liveReadingsOnly',
        'liveReadingsOnly',
      ])
    // A switched traveller reads 120 V in one position of its switch only; a floating conductor reads half.
    for (const volts of [[], [120], [120, 0], [58, 58], [120, 62]]) expect(role('line', 'measured', volts)).toBe('readingMissing')
    for (const volts of [[], [120], [60, 0.2], [120, 48]]) expect(role('neutral', 'measured', volts)).toBe('readingMissing')
    expect(role('traveller', 'continuity')).toBe('readingMissing')
    expect([
      role('line', 'measured', [121, 120]),
      role('neutral', 'measured', [120, 0.4]),
      role('traveller', 'continuity', [], 0.4),
    ]).toEqual(['accepted', 'accepted', 'accepted'])
  })
  test('a mate without tag and witness is refused the same step', () => {
    const { scenario } = visited()
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCD')
    scenario.prove('door')
    expect(
      refused(scenario.submitJob({ type: 'establishRole', boxId: scenario.box('door').id, letter: 'A', ...byHand('line') }, crew.ben)),
    ).toBe('notIsolated')
  })
})

describe('devices and codes', () => {
  test('an unfit device is refused with the reason; a wrong digit is caught', () => {
    const { scenario } = visited({
      ...single,
      points: [{ ...single.points[0]!, load: { technology: 'led', lamps: 60, wattsEach: 9, dimmable: true } }],
    })
    expect(
      refused(
        scenario.submitJob({
          type: 'chooseDevice',
          boxId: scenario.box('door').id,
          gang: 1,
          modelId: testModel.id,
          pointIds: [point(scenario).id],
        }),
      ),
    ).toBe('deviceUnfit')
    const other = wired()
    const unit = {
      type: 'recordUnit' as const,
      unitId: other.unitId,
      boxId: other.scenario.box('door').id,
      gang: 1,
      serial: 'SN-001',
      setupCodeAgain: '',
    }
    expect(refused(other.scenario.submitJob({ ...unit, setupCode: '34970112333' }))).toBe('codeWrong')
    expect(refused(other.scenario.submitJob({ ...unit, setupCode: '34970112332' }))).toBe('accepted')
  })
  test('the code is stored sealed, never as typed', () => {
    const { scenario } = wired()
    expect(JSON.stringify(scenario.log)).not.toContain(inventedCode(1))
    expect(Object.values(scenario.job.units)[0]!.code).toMatchObject({
      kind: 'manual',
      checked: 'checkDigit',
      sealed: expect.stringMatching(/^sealed:/),
      ending: inventedCode(1).slice(-2),
    })
  })
  test('a wired companion needs a partner with an input for it, whichever is chosen first', () => {
    const controls = [
      { box: 'door', gang: 1 },
      { box: 'stair', gang: 1 },
    ]
    const { scenario } = visited({ ...testFile, points: [{ ...testFile.points[0]!, controls }] })
    const models = {
      deaf: { ...testModel, id: '01890000-0000-7000-a000-0000000000d1', name: 'Deaf', multiWay: 'companion' as const },
      hears: {
        ...testModel,
        id: '01890000-0000-7000-a000-0000000000d2',
        multiWay: 'companion' as const,
        terminals: [...testModel.terminals, 'sense' as const],
      },
      wired: {
        ...testModel,
        id: '01890000-0000-7000-a000-0000000000d3',
        kind: 'companion' as const,
        multiWay: 'companion' as const,
        terminals: ['neutral' as const, 'sense' as const],
      },
    }
    const choose = (box: string, which: keyof typeof models) =>
      refused(
        scenario.submitJob(
          { type: 'chooseDevice', boxId: scenario.box(box).id, gang: 1, modelId: models[which].id, pointIds: [point(scenario).id] },
          crew.ann,
          { model: (id) => Object.values(models).find((one) => one.id === id) ?? null },
        ),
      )
    expect(choose('door', 'deaf')).toBe('accepted')
    expect(choose('stair', 'wired')).toBe('deviceUnfit')
    expect(choose('door', 'hears')).toBe('accepted')
    expect(choose('stair', 'wired')).toBe('accepted')
    expect(choose('door', 'deaf')).toBe('deviceUnfit')
  })
  test('no two devices have one setup code, nor has the new one that of the device taken out', () => {
    const { scenario, unitId } = wired(testFile)
    const next = {
      type: 'recordUnit' as const,
      unitId: scenario.newId(),
      boxId: scenario.box('stair').id,
      gang: 1,
      serial: 'SN-077',
      setupCodeAgain: '',
    }
    scenario.must(scenario.submitJob({ type: 'chooseDevice', boxId: next.boxId, gang: 1, modelId: testModel.id, pointIds: [] }))
    const answer = scenario.submitJob({ ...next, setupCode: inventedCode(1) })
    expect(refused(answer)).toBe('codeInUse')
    // Read once more for the device that has it: no slip.
    const own = scenario.job.units[unitId]!
    expect(refused(scenario.submitJob({ ...next, unitId, boxId: own.boxId, serial: own.serial, setupCode: inventedCode(1) }))).toBe(
      'accepted',
    )
    expect(refused(scenario.submitJob({ ...next, setupCode: inventedCode(3) }))).toBe('accepted')
  })
  test('device, tab and card are compared; a card of another device is told as its, and stands in the way of the handover', () => {
    const { scenario, unitId } = wired(testFile)
    const see = (setupCode: string, from: 'card' | 'tab' = 'card', over: object = {}) =>
      refused(scenario.submitJob({ type: 'checkCode', unitId, from, setupCode }, crew.ann, over))
    const item = () => handoverChecklist(scenario.job, scenario.site).find(({ id }) => id === 'units')!.why
    expect(see('1234')).toBe('codeWrong')
    expect(see(inventedCode(1), 'card', { unseal: null })).toBe('needsServer')
    expect(see(inventedCode(1))).toBe('accepted')
    expect(scenario.job.codeChecks[unitId]!.card).toMatchObject({ agrees: true, ofUnitId: null, by: 'AT' })
    scenario.must(
      scenario.submitJob({ type: 'chooseDevice', boxId: scenario.box('stair').id, gang: 1, modelId: testModel.id, pointIds: [] }),
    )
    const otherId = scenario.newId()
    scenario.must(
      scenario.submitJob({
        ...{ type: 'recordUnit', unitId: otherId, boxId: scenario.box('stair').id, gang: 1 },
        ...{ serial: 'SN-077', setupCode: inventedCode(3), setupCodeAgain: '' },
      }),
    )
    expect(see(inventedCode(3), 'tab')).toBe('accepted')
    expect(scenario.job.codeChecks[unitId]!.tab).toMatchObject({ agrees: false, ofUnitId: otherId })
    expect(item()).toContain('the tab of SN-001 says another code')
    expect(historyLine(scenario.log.at(-1)!, scenario.job, scenario.site, () => 'Ann Test').what).toMatch(
      /another setup code, …\d\d: that of/,
    )
    // The right one is lost, and the wrong one is taken away: nobody is stuck.
    expect(see('', 'card')).toBe('nothingDiffers')
    expect(see('', 'tab')).toBe('accepted')
    expect(item()).not.toContain('another code')
    expect(historyLine(scenario.log.at(-1)!, scenario.job, scenario.site, () => 'Ann Test').what).toMatch(/took the tab of .* away/)
    expect(see(inventedCode(3), 'tab')).toBe('accepted')
    // Read again, and it is the right one; recorded anew nothing was compared yet.
    expect(see(inventedCode(1), 'tab')).toBe('accepted')
    expect(item()).not.toContain('another code')
    const own = scenario.job.units[unitId]!
    scenario.must(
      scenario.submitJob({
        ...{ type: 'recordUnit', unitId, boxId: own.boxId, gang: own.gang, serial: own.serial },
        ...{ setupCode: inventedCode(5), setupCodeAgain: '' },
      }),
    )
    expect(scenario.job.codeChecks[unitId]).toBeUndefined()
  })
  test('a serial is used once', () => {
    const { scenario } = wired()
    expect(
      refused(
        scenario.submitJob({
          type: 'recordUnit',
          unitId: scenario.newId(),
          boxId: scenario.box('door').id,
          gang: 1,
          serial: 'SN-002',
          setupCode: inventedCode(2),
          setupCodeAgain: '',
        }),
      ),
    ).toBe('unitInstalled')
  })
})

describe('functional tests', () => {
  test('mean nothing with the box open, a tag hanging or the power off', () => {
    const { scenario } = visited()
    const check = { type: 'testPoint' as const, pointId: point(scenario).id, checkId: 'on:0', result: 'pass' as const, note: '' }
    scenario.openAndTag(['1'])
    expect(refused(scenario.submitJob(check))).toBe('tagHangs')
    scenario.takeTagsOff()
    expect(refused(scenario.submitJob(check))).toBe('powerOff')
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('door').id }))
    expect(refused(scenario.submitJob(check))).toBe('boxOpen')
  })
  test('with the wires out what is seen counts for nothing, and only while everybody stands clear', () => {
    const { scenario } = visited()
    const way = { method: branchSettingsSchema.parse({ testsWiresOut: true }) }
    const seen = { type: 'testWiresOut' as const, pointId: point(scenario).id, checkId: 'on:0', result: 'pass' as const, note: '' }
    const look = (over = way) => refused(scenario.submitJob(seen, crew.ann, over))
    const breakerId = scenario.breaker('1').id
    expect(look({ method: branchSettingsSchema.parse({}) })).toBe('testsClosedOnly')
    expect(look()).toBe('boxesClosed')
    scenario.openAndTag(['1'])
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('door').id }))
    scenario.conductors('door', 'ABCD')
    expect(look()).toBe('powerOff')
    const forAMoment = (purpose: 'wiresOut' | 'pairing') => {
      const [askId, grantId] = [scenario.newId(), scenario.newId()]
      scenario.must(scenario.submitSite({ type: 'askEnergise', askId, breakerId, purpose, note: '' }))
      scenario.must(scenario.submitSite({ type: 'confirmClear', askId }))
      expect(look()).toBe('powerOff')
      scenario.must(scenario.submitSite({ type: 'requestClose', grantId, breakerId, clearanceId: askId }))
      expect(look()).toBe('notForAMoment')
      scenario.must(scenario.submitSite({ type: 'answerPermit', grantId, answer: 'closed' }))
    }
    const off = () => {
      scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId, state: 'open', note: '' }))
      for (const { id } of Object.values(scenario.site.tags)) scenario.must(scenario.submitSite({ type: 'rehangTag', tagId: id }))
    }
    // Closed for something else nobody watches the lamps for.
    forAMoment('pairing')
    expect(look()).toBe('notForAMoment')
    off()
    forAMoment('wiresOut')
    expect(refused(scenario.submitJob({ ...seen, type: 'testPoint' }))).toBe('boxOpen')
    expect(refused(scenario.submitJob({ ...seen, checkId: 'no such' }, crew.ann, way))).toBe('noSuchCheck')
    expect(refused(scenario.submitJob({ ...seen, result: 'fail' }, crew.ann, way))).toBe('noteMissing')
    expect(look()).toBe('accepted')
    expect(seenWiresOut(scenario.job, scenario.site, point(scenario))).toMatchObject({ 'on:0': { result: 'pass', by: 'AT' } })
    expect(testResults(scenario.job, scenario.site, point(scenario))).toEqual({})
    expect(pointStatus(scenario.job, scenario.site, point(scenario))).toBe('untested')
    off()
    expect(look()).toBe('powerOff')
    scenario.prove('door')
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
    scenario.takeTagsOff()
    scenario.powerOn('1')
    expect(pointStatus(scenario.job, scenario.site, point(scenario))).toBe('untested')
    expect(look()).toBe('boxesClosed')
    scenario.must(scenario.submitJob({ ...seen, type: 'testPoint' }))
    expect(seenWiresOut(scenario.job, scenario.site, point(scenario))).toEqual({})
  })
  test('newest result counts; a fail needs a note', () => {
    const { scenario } = wired()
    passAll(scenario, ['off'])
    expect(pointStatus(scenario.job, scenario.site, point(scenario))).toBe('failed')
    passAll(scenario)
    expect(pointStatus(scenario.job, scenario.site, point(scenario))).toBe('passed')
    expect(refused(scenario.submitJob({ type: 'testPoint', pointId: point(scenario).id, checkId: 'on:0', result: 'fail', note: '' }))).toBe(
      'noteMissing',
    )
  })
})

describe('handover', () => {
  test('is refused while a test fails, unless listed as an open defect that the customer signs for', () => {
    const { scenario, unitId } = wired()
    passAll(scenario, ['off'])
    pair(scenario, unitId)
    tickAll(scenario)
    scenario.must(sign(scenario))
    expect(refused(scenario.submitJob({ type: 'completeHandover' }))).toBe('notReady')
    const defectId = scenario.newId()
    scenario.must(scenario.submitJob({ type: 'listDefect', defectId, pointId: point(scenario).id, text: 'stays on, new visit agreed' }))
    expect(refused(scenario.submitJob({ type: 'completeHandover' }))).toBe('notReady')
    expect(refused(sign(scenario))).toBe('defectsNotAccepted')
    scenario.must(sign(scenario, [defectId]))
    scenario.must(scenario.submitJob({ type: 'completeHandover' }))
    expect(jobStatus(scenario.job)).toBe('handedOver')
  })
  test('what came to be asked later is not asked of a job that was handed over before', () => {
    const { scenario, unitId } = wired()
    const asked = (kind: string) => checksFor(scenario.job, scenario.site, point(scenario)).some((check) => check.kind === kind)
    point(scenario).load.technology = 'fan'
    expect(asked('fan')).toBe(true)
    expect(handoverChecklist(scenario.job, scenario.site).map(({ id }) => id)).toEqual(expect.arrayContaining(['elsewhere', 'voice']))
    point(scenario).load.technology = 'led'
    passAll(scenario)
    pair(scenario, unitId)
    tickAll(scenario)
    scenario.must(sign(scenario))
    scenario.must(scenario.submitJob({ type: 'completeHandover' }))
    point(scenario).load.technology = 'fan'
    delete scenario.job.ticks.elsewhere
    expect(asked('fan')).toBe(false)
    expect(asked('motor')).toBe(true)
    expect(handoverChecklist(scenario.job, scenario.site).map(({ id }) => id)).not.toContain('elsewhere')
    // A box that is opened again is a new story.
    scenario.site.boxes[scenario.box('door').id]!.lastOpenedAt = '2999-01-01T00:00:00.000Z'
    expect(asked('fan')).toBe(true)
  })
  test('a change after the signature makes it stale', () => {
    const { scenario, unitId } = wired()
    passAll(scenario)
    pair(scenario, unitId)
    tickAll(scenario)
    scenario.must(sign(scenario))
    expect(handoverObstacles(scenario.job, scenario.site)).toEqual([])
    passAll(scenario)
    expect(handoverObstacles(scenario.job, scenario.site)).toEqual(['Something has changed since the customer signed. Sign again.'])
  })
  test('the list follows from the job: computed items cannot be ticked; a dimmer brings its own', () => {
    const { scenario } = wired()
    expect(refused(scenario.submitJob({ type: 'tickHandover', itemId: 'power', done: true, rests: 'seen', photoId: null, note: '' }))).toBe(
      'computed',
    )
    expect(refused(scenario.submitJob({ type: 'tickHandover', itemId: 'dim', done: true, rests: 'seen', photoId: null, note: '' }))).toBe(
      'noSuchItem',
    )
    const box = Object.values(scenario.job.boxes)[0]!
    box.devices[1]!.model = { ...testModel, kind: 'dimmer' }
    expect(handoverChecklist(scenario.job, scenario.site).map((item) => item.id)).toContain('dim')
  })
})

describe('names', () => {
  test('the same name is refused, a contained one only kept on purpose; other jobs in the home count', () => {
    const { scenario, unitId } = wired()
    const name = (text: string, despiteClash = false) =>
      scenario.submitJob({ type: 'nameUnit', unitId, name: text, despiteClash }, crew.ann, { otherNames: ['Landing'] })
    expect([refused(name('landing')), refused(name('Landing 2')), refused(name('Landing 2', true)), refused(name('Porch'))]).toEqual([
      'nameClash',
      'nameContained',
      'accepted',
      'accepted',
    ])
  })
})

describe('what has a name', () => {
  test('a device with what is known of it, to make a name of; one that is out of the wall has none', () => {
    const { scenario, unitId } = wired()
    const before = namedIn(scenario.job, scenario.site)
    expect(before).toEqual([expect.objectContaining({ id: unitId, unitId, pointId: null, name: '', thing: 'light' })])
    scenario.must(scenario.submitJob({ type: 'nameUnit', unitId, name: 'Porch light', despiteClash: false }))
    const [one] = namedIn(scenario.job, scenario.site)
    expect(one).toEqual({ ...before[0], name: 'Porch light' })
    const { boxId, gang } = scenario.job.units[unitId]!
    const [pointId] = scenario.job.boxes[boxId]!.devices[gang]!.pointIds
    expect([one!.at, one!.point, one!.room]).toEqual([
      scenario.site.boxes[boxId]!.name,
      scenario.job.points[pointId!]!.name,
      scenario.site.rooms[scenario.job.points[pointId!]!.roomId]!.name,
    ])
    // Two channels: each point has a name of its own, and the device needs none.
    const { job } = scenario
    const unit = job.units[unitId]!
    const point = job.points[pointId!]!
    const work = job.boxes[boxId]!
    const twice: JobState = {
      ...job,
      boxes: { ...job.boxes, [boxId]: { ...work, devices: { [gang]: { ...work.devices[gang]!, pointIds: [point.id, 'p2'] } } } },
      points: { ...job.points, p2: { ...point, id: 'p2', name: 'fan', load: { ...point.load, technology: 'fan' } } },
      units: {
        [unitId]: {
          ...unit,
          name: '',
          channelNames: { p2: 'porch fan' },
          model: { ...unit.model, terminals: [...unit.model.terminals, 'load2'] },
        },
      },
    }
    // The switch in the fan is set before there is power.
    const steps = stepsFor(twice, scenario.site, boxId, gang, branchSettingsSchema.parse({}))
    expect(steps.filter(({ id }) => id.startsWith('chains:')).map(({ id, phase }) => [id, phase])).toEqual([['chains:p2', 'close']])
    expect(stepsFor(job, scenario.site, boxId, gang, branchSettingsSchema.parse({})).some(({ id }) => id.startsWith('chains:'))).toBe(false)
    expect(namedIn(twice, scenario.site).map(({ id, name, thing }) => [id, name, thing])).toEqual([
      [`${unitId} ${pointId}`, '', 'light'],
      [`${unitId} p2`, 'porch fan', 'fan'],
    ])
    twice.units[unitId]!.removedAt = '2026-03-02T09:00:00.000Z'
    expect(namedIn(twice, scenario.site)).toEqual([])
  })
})

describe('visits', () => {
  test('do not end with a tag hanging or a box open; ending voids what the crew proved', () => {
    const { scenario, visitId } = visited()
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCD')
    const proofId = scenario.prove('door')
    const finish = () => scenario.submitJob({ type: 'finishVisit', visitId })
    expect(refused(finish())).toBe('boxOpen')
    scenario.must(scenario.submitSite({ type: 'makeSafe', boxId: scenario.box('door').id, how: 'all ends capped' }))
    expect(refused(finish())).toBe('tagsLeft')
    scenario.takeTagsOff()
    scenario.must(finish())
    expect(scenario.site.proofs[proofId]!.status).toBe('void')
    expect(jobStatus(scenario.job)).toBe('between')
  })
  test('times that make no sense, people of nowhere, roles that may not', () => {
    const { scenario } = visited()
    const visit = {
      type: 'scheduleVisit' as const,
      visitId: scenario.newId(),
      kind: 'install' as const,
      callbackId: null,
      ...times,
      personIds: [crew.ann.personId],
    }
    expect(refused(scenario.submitJob({ ...visit, endsAt: times.startsAt }, crew.office))).toBe('timesOdd')
    const on = (day: string) => Object.fromEntries(Object.entries(times).map(([what, at]) => [what, at.replace('2026-03-02', day)]))
    for (const odd of [
      // Somebody reads the wrong line of a calendar, types the wrong year, or tells the customer another half of the day.
      { endsAt: '2027-03-02T10:00:00.000Z' },
      on('2025-03-02'),
      on('2062-03-02'),
      { windowFrom: '2026-03-02T13:00:00.000Z', windowTo: '2026-03-02T15:00:00.000Z' },
      { windowFrom: '2026-03-02T05:00:00.000Z', windowTo: '2026-03-02T07:00:00.000Z' },
      { windowFrom: '2026-03-02T08:30:00.000Z', windowTo: '2026-03-02T22:00:00.000Z' },
    ])
      expect([odd, refused(scenario.submitJob({ ...visit, ...odd }, crew.office))]).toEqual([odd, 'timesOdd'])
    expect(refused(scenario.submitJob({ ...visit, personIds: [scenario.newId()] }, crew.office))).toBe('noSuchPerson')
    expect(refused(scenario.submitJob(visit, crew.ann))).toBe('officeOnly')
    expect(refused(scenario.submitJob({ ...visit, kind: 'callback' }, crew.office))).toBe('noSuchCallback')
    scenario.must(scenario.submitJob({ ...visit, personIds: [crew.ann.personId, crew.ann.personId] }, crew.office))
    expect(scenario.job.visits[visit.visitId]!.personIds).toEqual([crew.ann.personId])
  })
})

/** A device that was handed over, and is called about. */
function calledAbout(call: Call | null = null) {
  const { scenario, unitId, visitId } = wired()
  passAll(scenario)
  pair(scenario, unitId)
  tickAll(scenario)
  scenario.must(sign(scenario))
  scenario.must(scenario.submitJob({ type: 'completeHandover' }))
  scenario.must(scenario.submitJob({ type: 'finishVisit', visitId }))
  const callbackId = scenario.newId()
  scenario.must(
    scenario.submitJob(
      {
        type: 'openCallback',
        callbackId,
        unitId,
        what: 'dead since last night',
        since: '2026-03-01',
        offlineInApp: true,
        wallSwitchFlipped: false,
        routerChanged: false,
        breakerTripped: false,
        ...(call && { call }),
      },
      crew.office,
    ),
  )
  return { scenario, unitId, callbackId }
}
/** The whole story of one device: in, called back, out, another in. */
function calledBack(): Scenario {
  const { scenario, unitId, callbackId } = calledAbout()
  const second = scenario.newId()
  scenario.must(
    scenario.submitJob(
      { type: 'scheduleVisit', visitId: second, kind: 'callback', callbackId, ...times, personIds: [crew.ann.personId] },
      crew.office,
    ),
  )
  scenario.must(scenario.submitJob({ type: 'arrive', visitId: second }))
  const replace = {
    type: 'replaceUnit' as const,
    callbackId,
    oldUnitId: unitId,
    newUnitId: scenario.newId(),
    serial: 'SN-009',
    setupCode: inventedCode(9),
    setupCodeAgain: '',
    oldUnitGoes: 'return' as const,
  }
  expect(refused(scenario.submitJob(replace))).toBe('notDiagnosed')
  scenario.must(
    scenario.submitJob({ type: 'diagnoseCallback', callbackId, causeKind: 'device', cause: 'relay stuck open', remedy: 'replace' }),
  )
  expect(refused(scenario.submitJob(replace))).toBe('notIsolated')
  scenario.openAndTag(['1'])
  scenario.prove('door')
  scenario.must(scenario.submitJob(replace))
  const close = { type: 'closeCallback' as const, callbackId, resolution: 'unit replaced' }
  expect(refused(scenario.submitJob(close))).toBe('notTested')
  scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
  scenario.takeTagsOff()
  scenario.powerOn('1')
  passAll(scenario)
  expect(refused(scenario.submitJob(close))).toBe('notPaired')
  scenario.must(
    scenario.submitJob({
      type: 'recordPairing',
      unitId: replace.newUnitId,
      result: 'joined',
      network: 'home',
      signal: { kind: 'bars', bars: 3 },
      note: '',
    }),
  )
  scenario.must(scenario.submitJob(close))
  return scenario
}

describe('a device that came out', () => {
  const follow = {
    type: 'followReturn',
    goes: 'return',
    reference: '',
    note: '',
    cleared: null,
    outcome: null,
    creditCents: null,
    dueOn: null,
  }
  const outOf = () => {
    const scenario = calledBack()
    const [out] = devicesOut(scenario.job)
    return {
      scenario,
      out: out!,
      say: (more: object) => scenario.submitJob({ ...follow, serial: out!.serial, ...more } as never, crew.office),
    }
  }
  test('waits to be sent without anybody saying so, and each step has its day', () => {
    const { scenario, out, say } = outOf()
    const first = { goes: 'return', stage: 'waits', outcome: null, callbackId: Object.keys(scenario.job.callbacks)[0] }
    expect(devicesOut(scenario.job)).toMatchObject([{ ...first, dueOn: daysAfter(out.outAt, 14) }])
    expect(refused(say({ stage: 'waits', dueOn: null }))).toBe('noDay')
    expect(refused(say({ stage: 'waits', dueOn: daysAfter(out.outAt, -3) }))).toBe('dayBefore')
    expect(refused(say({ stage: 'sent', dueOn: daysAfter(out.outAt, 30), cleared: null }))).toBe('notCleared')
    scenario.must(say({ stage: 'sent', dueOn: daysAfter(out.outAt, 30), cleared: 'dead', reference: 'R 17' }))
    expect(devicesOut(scenario.job)).toMatchObject([{ stage: 'sent', reference: 'R 17', cleared: 'dead' }])
    expect(refused(say({ stage: 'settled' }))).toBe('noOutcome')
    expect(refused(say({ stage: 'sent', dueOn: daysAfter(out.outAt, 30), cleared: 'dead', outcome: 'replaced' }))).toBe('noOutcome')
    expect(refused(say({ stage: 'settled', outcome: 'inStock' }))).toBe('otherOutcome')
    scenario.must(say({ stage: 'settled', outcome: 'credited', creditCents: 3450 }))
    expect(devicesOut(scenario.job)).toMatchObject([{ stage: 'settled', outcome: 'credited', creditCents: 3450, dueOn: null }])
    // A slip is said anew.
    scenario.must(say({ stage: 'waits', goes: 'loan', dueOn: daysAfter(out.outAt, 2) }))
    expect(scenario.job.units[out.unitId!]!.removedTo).toBe('loan')
    scenario.must(say({ stage: 'settled', goes: 'loan', outcome: 'inStock' }))
    expect(refused(say({ stage: 'waits', goes: 'scrap', dueOn: daysAfter(out.outAt, 2) }))).toBe('scrapped')
  })
  test('one that is in the wall, or of nobody, is followed nowhere', () => {
    const { scenario, say } = outOf()
    const inWall = Object.values(scenario.job.units).find(({ removedAt }) => !removedAt)!
    for (const serial of [inWall.serial, 'SN-nobody', '__proto__'])
      expect([serial, refused(say({ serial, stage: 'settled', outcome: 'scrapped' }))]).toEqual([serial, 'notOut'])
  })
})

const call: Call = {
  symptoms: ['offline'],
  answers: [
    { question: 'router', answer: 0 },
    { question: 'web', answer: null },
  ],
  tried: [],
  flags: [],
  ranked: [{ cause: 'routerChanged', words: 'a new router', share: 0.8 }],
  carry: [],
  minutes: 30,
  licence: false,
  payer: 'customer',
}
describe('a callback on the telephone', () => {
  const visitFor = (callbackId: string, visitId: string) => ({
    type: 'scheduleVisit' as const,
    visitId,
    kind: 'callback' as const,
    callbackId,
    ...times,
    personIds: [crew.ann.personId],
  })
  const solve = (callbackId: string) =>
    ({
      type: 'solveCallback',
      callbackId,
      causeId: 'routerChanged',
      how: 'The old name given to the new router.',
      callBackOn: '2026-03-04',
    }) as const
  const vantage = (scenario: Scenario) => atServer(new Date(scenario.now).toISOString(), 120)

  test('mended by the customer, heard again, closed with its cause', () => {
    const { scenario, callbackId } = calledAbout(call)
    expect(scenario.job.callbacks[callbackId]).toMatchObject({ call, payer: 'customer', status: 'open' })
    scenario.must(scenario.submitJob(solve(callbackId), crew.office))
    expect(jobSentence(scenario.job, scenario.site, crew.ann, vantage(scenario))).toContain('Mended on the telephone')
    expect(jobStatus(scenario.job)).toBe('callback')
    const again = { type: 'closeCallback' as const, callbackId, resolution: 'all well' }
    expect(refused(scenario.submitJob(again, crew.office))).not.toBe('accepted')
    expect(refused(scenario.submitJob(solve(callbackId), crew.office))).toBe('callbackDiagnosed')
    scenario.must(scenario.submitJob({ type: 'hearBack', callbackId, works: true, said: 'It has been well since.' }, crew.office))
    expect(scenario.job.callbacks[callbackId]).toMatchObject({
      status: 'closed',
      causeId: 'routerChanged',
      resolution: 'It has been well since.',
    })
    expect(jobStatus(scenario.job)).toBe('handedOver')
    expect(refused(scenario.submitJob({ type: 'hearBack', callbackId, works: true, said: '' }, crew.office))).toBe('nothingTold')
  })

  test('what did not last is open again, and counts against the cause that was believed', () => {
    const { scenario, callbackId } = calledAbout(call)
    scenario.must(scenario.submitJob(solve(callbackId), crew.office))
    scenario.must(scenario.submitJob({ type: 'hearBack', callbackId, works: false, said: 'Away again since this morning.' }, crew.office))
    expect(scenario.job.callbacks[callbackId]).toMatchObject({
      status: 'open',
      causeId: null,
      told: null,
      call: { tried: [{ cause: 'routerChanged', mended: false }] },
    })
  })

  test('the same model comes along where the device is likely at fault, or was found to be; not once another is in', () => {
    const along = (one: ReturnType<typeof calledAbout>) => modelsToCarry(one.scenario.job, one.callbackId)
    expect([along(calledAbout()), along(calledAbout(call))]).toEqual([[], []])
    const likely = calledAbout({ ...call, carry: [carryWords.connectors, carryWords.device] })
    expect(along(likely)).toEqual([testModel.id])
    const found = calledAbout()
    const diagnosis = {
      type: 'diagnoseCallback' as const,
      callbackId: found.callbackId,
      causeKind: 'device' as const,
      cause: 'relay stuck',
    }
    found.scenario.must(found.scenario.submitJob({ ...diagnosis, remedy: 'replace' }))
    expect(along(found)).toEqual([testModel.id])
    found.scenario.must(found.scenario.submitJob({ ...diagnosis, remedy: 'teach' }))
    expect(along(found)).toEqual([])
    const done = calledBack()
    expect(Object.keys(done.job.callbacks).flatMap((id) => modelsToCarry(done.job, id))).toEqual([])
  })

  test('how long the visit takes follows from what was told', () => {
    const work = (one: ReturnType<typeof calledAbout>) => workLeft(one.scenario.job, one.scenario.site, 'callback')
    expect(work(calledAbout())).toEqual({ arrive: 1, diagnosis: 1, box: 1 })
    expect(work(calledAbout({ ...call, minutes: 30, licence: false }))).toEqual({ arrive: 1, diagnosis: 30 / 45 })
    expect(work(calledAbout({ ...call, minutes: 90, licence: true }))).toEqual({ arrive: 1, diagnosis: 2, box: 1 })
    // Nobody looks and mends in two minutes.
    expect(work(calledAbout({ ...call, minutes: 2, licence: false })).diagnosis).toBeCloseTo(1 / 3)
  })

  test('nothing dangerous is mended from afar; a visit that is booked is cancelled first', () => {
    const danger = calledAbout({ ...call, flags: ['smell'] })
    expect(refused(danger.scenario.submitJob(solve(danger.callbackId), crew.office))).toBe('dangerTold')
    const { scenario, callbackId } = calledAbout(call)
    const visit = visitFor(callbackId, scenario.newId())
    scenario.must(scenario.submitJob(visit, crew.office))
    expect(refused(scenario.submitJob(solve(callbackId), crew.office))).toBe('visitComing')
  })

  test('a swap is no diagnosis: what shows the cause is written down first', () => {
    const { scenario, callbackId } = calledAbout(call)
    const visitId = scenario.newId()
    const visit = visitFor(callbackId, visitId)
    scenario.must(scenario.submitJob(visit, crew.office))
    scenario.must(scenario.submitJob({ type: 'arrive', visitId }))
    const found = {
      type: 'diagnoseCallback',
      callbackId,
      causeKind: 'device',
      causeId: 'relayWorn',
      cause: 'Its relay does not make contact.',
      remedy: 'replace',
    } as const
    expect(refused(scenario.submitJob(found))).toBe('notConfirmed')
    scenario.must(scenario.submitJob({ ...found, confirmedBy: 'Line at its input, none at its load terminal.', payer: 'maker' }))
    expect(scenario.job.callbacks[callbackId]).toMatchObject({ causeId: 'relayWorn', payer: 'maker', status: 'diagnosed' })
    const told = scenario.log.map((event) => historyLine(event, scenario.job, scenario.site, () => 'Ann Test'))
    expect(JSON.stringify(told)).toContain('shown by: Line at its input')
  })
})

test('callback: diagnosed, old serial out, new in, tests again, closed', () => {
  const scenario = calledBack()
  const units = Object.values(scenario.job.units)
  expect(units.map((unit) => [unit.serial, unit.removedTo, unit.name])).toEqual([
    ['SN-001', 'return', 'Door light'],
    ['SN-009', null, 'Door light'],
  ])
  expect(jobStatus(scenario.job)).toBe('handedOver')
  const vantage = atServer(new Date(scenario.now).toISOString(), 120)
  expect(jobSentence(scenario.job, scenario.site, crew.ann, vantage)).toBe('1 of 1 point passes. Handed over and signed by C. Test.')
})

test('every event of the story has a sentence', () => {
  const scenario = calledBack()
  for (const event of scenario.log) {
    const line = historyLine(event, scenario.job, scenario.site, () => 'Ann Test')
    expect(line.what).not.toMatch(/undefined|which this program does not know|\[object/)
    expect(line.what.length).toBeGreaterThan(4)
  }
  expect(new Set(scenario.log.map((event) => event.type)).size).toBeGreaterThan(25)
})

test('an event of a newer program marks the record and grants nothing', () => {
  const scenario = new Scenario(single)
  const job: JobState = scenario.job
  job.unknownEvent = 'futureEvent v1'
  expect(refused(scenario.submitJob({ type: 'listDefect', defectId: scenario.newId(), pointId: null, text: 'anything' }))).toBe(
    'updateNeeded',
  )
})

describe('who may do what', () => {
  test('the crew does not schedule, the office does not test, a stranger to the job does neither', () => {
    const { scenario, visitId } = visited()
    scenario.offCrew.add(crew.ben.personId)
    const commands = [
      { type: 'testPoint' as const, pointId: point(scenario).id, checkId: 'on:0', result: 'pass' as const, note: '' },
      { type: 'finishVisit' as const, visitId },
      { type: 'tickHandover' as const, itemId: 'wall', done: true, rests: 'seen' as const, photoId: null, note: '' },
      {
        type: 'signHandover' as const,
        signatureId: scenario.newId(),
        signer: 'x',
        strokes: [[[0, 0] as [number, number]]],
        acceptedDefectIds: [],
      },
    ]
    for (const command of commands) {
      expect(refused(scenario.submitJob(command, crew.office))).toBe('notOnCrew')
      expect(refused(scenario.submitJob(command, crew.ben))).toBe('notOnCrew')
    }
    expect(refused(scenario.submitJob({ type: 'cancelVisit', visitId, reason: 'rain' }, crew.ann))).toBe('officeOnly')
    expect(
      refused(
        scenario.submitJob({ type: 'listDefect', defectId: scenario.newId(), pointId: null, text: 'seen in the office' }, crew.office),
      ),
    ).toBe('accepted')
  })
  test('only those on the visit arrive; a running visit is not cancelled; a tagged person is not taken off it', () => {
    const { scenario, visitId } = visited()
    expect(refused(scenario.submitJob({ type: 'arrive', visitId }, crew.ida))).toBe('notOnVisit')
    expect(refused(scenario.submitJob({ type: 'cancelVisit', visitId, reason: 'rain' }, crew.office))).toBe('visitState')
    scenario.openAndTag(['1'])
    const move = (personIds: string[]) => scenario.submitJob({ type: 'moveVisit', visitId, ...times, personIds }, crew.office)
    expect(refused(move([crew.ben.personId]))).toBe('leftBehind')
    expect(refused(move([crew.ann.personId]))).toBe('accepted')
  })
})

test('whom its visits take is said by crew or office, the last word counts, and what is no number of people is none', () => {
  const { scenario } = visited()
  expect(scenario.job.needs).toBeUndefined()
  scenario.must(scenario.submitJob({ type: 'setNeeds', people: 2, skills: ['networks', 'networks'] }, crew.ann))
  expect(scenario.job.needs).toEqual({ people: 2, skills: ['networks'] })
  scenario.must(scenario.submitJob({ type: 'setNeeds', people: 1, skills: [] }, crew.office))
  expect(scenario.job.needs).toEqual({ people: 1, skills: [] })
  for (const nonsense of [{ people: 0 }, { people: 7 }, { skills: [''] }, { people: 1.5 }])
    expect(setNeedsInput.safeParse({ people: 1, skills: [], ...nonsense }).success).toBe(false)
})

describe('on the way, and promised anew', () => {
  /** A visit that nobody has arrived at. */
  function booked() {
    const { scenario } = visited()
    const visitId = scenario.newId()
    const command = { type: 'scheduleVisit' as const, visitId, kind: 'install' as const, callbackId: null }
    scenario.must(scenario.submitJob({ ...command, ...times, personIds: [crew.ann.personId, crew.ben.personId] }, crew.office))
    return { scenario, visitId, visit: () => scenario.job.visits[visitId]! }
  }
  test('its people say that they leave; another time or other people, and nobody is on the way any more', () => {
    const { scenario, visitId, visit } = booked()
    expect(refused(scenario.submitJob({ type: 'setOff', visitId, expectedAt: times.startsAt }, crew.ida))).toBe('notOnVisit')
    // It waited on a phone, and the visit begins at another time by now.
    const before = new Date(Date.parse(times.startsAt) - 3_600_000).toISOString()
    expect(refused(scenario.submitJob({ type: 'setOff', visitId, expectedAt: null, startsAt: before }, crew.ben))).toBe('visitMoved')
    const leave = { type: 'setOff' as const, visitId, expectedAt: times.startsAt, startsAt: times.startsAt }
    expect(refused(scenario.submitJob(leave, crew.ben))).toBe('accepted')
    expect(visit().expectedAt).toBe(times.startsAt)
    expect(visit().setOffAt).toBeDefined()
    // The promise alone takes nobody off the road.
    const window = { windowFrom: times.windowFrom, windowTo: times.windowTo }
    expect(refused(scenario.submitJob({ type: 'promiseAnew', visitId, told: 'message', ...window }, crew.ann))).toBe('accepted')
    expect(visit().setOffAt).toBeDefined()
    const move = { type: 'moveVisit' as const, visitId, ...times, personIds: [crew.ann.personId] }
    expect(refused(scenario.submitJob(move, crew.office))).toBe('accepted')
    expect(visit().setOffAt).toBeDefined()
    const startsAt = new Date(Date.parse(times.startsAt) + 1_800_000).toISOString()
    expect(refused(scenario.submitJob({ ...move, startsAt }, crew.office))).toBe('accepted')
    expect(visit().setOffAt).toBeUndefined()
    scenario.must(scenario.submitJob({ type: 'arrive', visitId }, crew.ann))
    expect(refused(scenario.submitJob({ type: 'setOff', visitId, expectedAt: null }, crew.ann))).toBe('visitState')
  })
  test('a promise is made anew by its crew or the office, for a time to come, and not for half a day', () => {
    const { scenario, visitId, visit } = booked()
    const from = Date.parse(times.windowTo)
    const window = (start: number, hours: number) => ({
      windowFrom: new Date(start).toISOString(),
      windowTo: new Date(start + hours * 3_600_000).toISOString(),
    })
    const promise = (given: { windowFrom: string; windowTo: string }, who = crew.ann) =>
      refused(scenario.submitJob({ type: 'promiseAnew', visitId, told: 'telephone', ...given }, who))
    expect(promise(window(from, 1), crew.ida)).toBe('notOnVisit')
    expect(promise(window(from, 0))).toBe('timesOdd')
    expect(promise(window(from, 13))).toBe('timesOdd')
    expect(promise(window(Date.parse('2001-01-01T08:00:00Z'), 1))).toBe('timesOdd')
    // The crew stays booked for its day: a promise of the next one is kept by nobody.
    expect(promise(window(Date.parse(times.startsAt) + 20 * 3_600_000, 2))).toBe('timesOdd')
    expect(promise(window(from, 1))).toBe('accepted')
    expect(visit()).toMatchObject({ ...window(from, 1), startsAt: times.startsAt })
    expect(promise(window(from, 2), crew.office)).toBe('accepted')
  })
  test('what a customer chose is told as theirs', () => {
    const { scenario, visitId } = booked()
    const move = { type: 'moveVisitForCustomer' as const, visitId, ...times, personIds: [crew.ann.personId] }
    expect(refused(scenario.submitJob(move, crew.office))).toBe('accepted')
    const event = scenario.log.findLast(({ type }) => type === 'visitMoved')!
    expect(historyLine(event, scenario.job, scenario.site, () => '').what).toBe(
      'moved the visit to a time that the customer chose on their page',
    )
  })
})

describe('what belongs together', () => {
  test('devices go where their point is switched; steps come from the device; ids are used once', () => {
    const { scenario } = visited(testFile)
    const stair = Object.values(scenario.job.points).find((entry) => entry.name === 'Stair light')!
    const choose = (over: object) =>
      scenario.submitJob({ type: 'chooseDevice', boxId: scenario.box('door').id, gang: 1, modelId: testModel.id, pointIds: [], ...over })
    expect(refused(choose({ pointIds: [stair.id] }))).toBe('noSuchPoint')
    expect(refused(choose({ gang: 2 }))).toBe('noSuchGang')
    expect(refused(choose({ modelId: scenario.newId() }))).toBe('noSuchModel')
    expect(refused(choose({ boxId: scenario.newId() }))).toBe('noSuchBox')
    expect(refused(scenario.submitJob({ type: 'markStep', boxId: scenario.box('door').id, gang: 1, stepId: 'prep', done: true }))).toBe(
      'noSuchStep',
    )
    expect(
      refused(
        scenario.submitJob({
          type: 'recordUnit',
          unitId: scenario.newId(),
          boxId: scenario.box('door').id,
          gang: 1,
          serial: 'X-1',
          setupCode: inventedCode(3),
          setupCodeAgain: '',
        }),
      ),
    ).toBe('noDevice')
    const defectId = scenario.newId()
    expect(refused(scenario.submitJob({ type: 'listDefect', defectId, pointId: null, text: 'loose plate' }))).toBe('accepted')
    expect(refused(scenario.submitJob({ type: 'listDefect', defectId, pointId: null, text: 'loose plate' }))).toBe('defectExists')
    expect(refused(scenario.submitJob({ type: 'settleDefect', defectId, how: 'screwed on' }))).toBe('accepted')
    expect(refused(scenario.submitJob({ type: 'settleDefect', defectId, how: 'again' }))).toBe('defectSettled')
  })
  test('pairing wants network and level, or what was seen; pictures have to have arrived', () => {
    const { scenario, unitId } = wired()
    const pairing = (over: object) =>
      scenario.submitJob({
        type: 'recordPairing',
        unitId,
        result: 'joined',
        network: 'home',
        signal: { kind: 'bars', bars: 2 },
        note: '',
        ...over,
      })
    expect([
      refused(pairing({ signal: null })),
      refused(pairing({ network: '' })),
      refused(pairing({ result: 'failed' })),
      refused(pairing({})),
    ]).toEqual(['signalMissing', 'signalMissing', 'noteMissing', 'accepted'])
    expect(refused(pairing({ unitId: scenario.newId() }))).toBe('noSuchUnit')
    const photo = {
      type: 'addPhoto' as const,
      photoId: scenario.newId(),
      boxId: scenario.box('door').id,
      kind: 'asFound' as const,
      caption: '',
    }
    expect(refused(scenario.submitJob(photo, crew.ann, { hasPhoto: () => false }))).toBe('noSuchPhoto')
    expect(refused(scenario.submitJob(photo))).toBe('accepted')
    expect(refused(scenario.submitJob(photo))).toBe('photoExists')
  })
  test('a tick belongs to what it was about: another device, and it falls', () => {
    const { scenario } = visited()
    const boxId = scenario.box('door').id
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCD')
    scenario.prove('door')
    const other = { ...testModel, id: scenario.newId(), name: 'other' }
    const choose = (model: typeof testModel) =>
      scenario.must(
        scenario.submitJob({ type: 'chooseDevice', boxId, gang: 1, modelId: model.id, pointIds: [point(scenario).id] }, crew.ann, {
          model: () => model,
        }),
      )
    choose(testModel)
    scenario.must(scenario.submitJob({ type: 'markStep', boxId, gang: 1, stepId: 'prep', done: true }))
    choose(testModel)
    const prep = () => stepsFor(scenario.job, scenario.site, boxId, 1, branchSettingsSchema.parse({}))[0]!
    expect(stepDone(scenario.job, boxId, 1, prep())).toMatchObject({ by: 'AT' })
    choose(other)
    expect(stepDone(scenario.job, boxId, 1, prep())).toBeNull()
  })
})

describe('the sentence on top of a job', () => {
  const say = (scenario: Scenario, who = crew.ann, onCrew = true) =>
    jobSentence(scenario.job, scenario.site, who, atServer(new Date(scenario.now).toISOString(), 120), onCrew)
  test('follows the work', () => {
    const fresh = new Scenario(single)
    const seen = [say(fresh)]
    const { scenario } = visited()
    seen.push(say(scenario))
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCD')
    const proofId = scenario.startProof('door')
    seen.push(say(scenario))
    scenario.must(scenario.submitSite({ type: 'abandonProof', proofId, reason: 'tea' }))
    scenario.prove('door')
    seen.push(say(scenario), say(scenario, crew.ben), say(scenario, crew.office, false))
    expect(seen).toEqual([
      '1 point in 1 box. Nobody is scheduled yet.',
      '0 of 1 point passes. No box is open.',
      '0 of 1 point passes. Door waits: prove it dead.',
      '0 of 1 point passes. Door is proven dead: you may work in it.',
      '0 of 1 point passes. Door waits: hang your tag on breaker 1.',
      '0 of 1 point passes. Door is open, proven dead by Ann Test.',
    ])
    const done = wired().scenario
    passAll(done, ['off'])
    expect(say(done)).toBe('0 of 1 point passes, 1 fails.')
    passAll(done)
    expect(say(done)).toMatch(/^The one point passes\. \d+ handover items are left\.$/)
  })
})

describe('plain mistakes have a way back', () => {
  test('a visit that was ended is gone on with by its people, on the same day', () => {
    const { scenario, visitId } = visited()
    scenario.must(scenario.submitJob({ type: 'finishVisit', visitId }))
    expect(scenario.job.visits[visitId]!.status).toBe('done')
    expect(refused(scenario.submitJob({ type: 'resumeVisit', visitId }, crew.ida))).toBe('notOnVisit')
    scenario.offCrew.add(crew.ann.personId)
    scenario.must(scenario.submitJob({ type: 'resumeVisit', visitId }))
    expect(scenario.job.visits[visitId]).toMatchObject({ status: 'onSite', finishedAt: null })
    expect(refused(scenario.submitJob({ type: 'resumeVisit', visitId }))).toBe('visitState')
    scenario.offCrew.clear()
    scenario.must(scenario.submitJob({ type: 'finishVisit', visitId }))
    scenario.now += 13 * 3_600_000
    expect(refused(scenario.submitJob({ type: 'resumeVisit', visitId }))).toBe('tooLate')
  })
  test('a device that was chosen is not chosen after all, until its serial is recorded', () => {
    const { scenario } = visited()
    const boxId = scenario.box('door').id
    const unchoose = { type: 'unchooseDevice' as const, boxId, gang: 1 }
    expect(refused(scenario.submitJob(unchoose))).toBe('noDevice')
    const choose = () =>
      scenario.must(scenario.submitJob({ type: 'chooseDevice', boxId, gang: 1, modelId: testModel.id, pointIds: [point(scenario).id] }))
    choose()
    scenario.must(scenario.submitJob(unchoose))
    expect(scenario.job.boxes[boxId]!.devices).toEqual({})
    const { scenario: done } = wired()
    expect(refused(done.submitJob({ ...unchoose, boxId: done.box('door').id }))).toBe('unitInstalled')
  })
})

describe('steps that would mislead', () => {
  const method = branchSettingsSchema.parse({})
  const atDoor = () => {
    const { scenario } = visited()
    const boxId = scenario.box('door').id
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCD')
    scenario.prove('door')
    scenario.must(scenario.submitJob({ type: 'chooseDevice', boxId, gang: 1, modelId: testModel.id, pointIds: [point(scenario).id] }))
    const steps = () => stepsFor(scenario.job, scenario.site, boxId, 1, method)
    return { scenario, boxId, steps }
  }
  test('several gangs or feeds: no steps before the wiring is laid, and no tick is taken', () => {
    const { scenario } = visited(testFile)
    const boxId = scenario.box('stair').id
    scenario.openAndTag(['1', '2'])
    scenario.conductors('stair', 'ABCDEF')
    scenario.prove('stair')
    const stair = Object.values(scenario.job.points).find((entry) => entry.name === 'Stair light')!
    scenario.must(scenario.submitJob({ type: 'chooseDevice', boxId, gang: 1, modelId: testModel.id, pointIds: [stair.id] }))
    expect(needsPlan(scenario.job, scenario.site, boxId)).toBe(true)
    expect(stepsFor(scenario.job, scenario.site, boxId, 1, method)).toEqual([])
    expect(refused(scenario.submitJob({ type: 'markStep', boxId, gang: 1, stepId: 'prep', done: true }))).toBe('planFirst')
  })
  test('done without network under a proof that had ended by then: kept in doubt, until somebody has looked', () => {
    const { scenario, boxId, steps } = atDoor()
    const step = { type: 'markStep' as const, boxId, gang: 1, stepId: steps()[0]!.id, done: true }
    scenario.now += 5 * 60_000
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'closed', note: '' }))
    // Given now, it is refused; it waited on a phone since before the breaker was found closed.
    expect(refused(scenario.submitJob(step))).not.toBe('accepted')
    scenario.heldMs = 120_000
    expect(refused(scenario.submitJob(step, crew.ben))).not.toBe('accepted')
    scenario.must(scenario.submitJob(step))
    scenario.heldMs = 0
    expect(inDoubtAt(scenario.job, boxId)).toBe(1)
    expect(scenario.log.some(({ type, payload }) => type === 'stepMarked' && (payload as { inDoubt?: true }).inDoubt)).toBe(true)
    expect(refused(scenario.submitJob({ type: 'clearDoubt', boxId }))).not.toBe('accepted')
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', note: '' }))
    const [tag] = Object.values(scenario.site.tags)
    scenario.must(scenario.submitSite({ type: 'rehangTag', tagId: tag!.id, cause: 'somebody had taken it off' }))
    scenario.prove('door')
    scenario.must(scenario.submitJob({ type: 'clearDoubt', boxId }))
    expect(inDoubtAt(scenario.job, boxId)).toBe(0)
    expect(refused(scenario.submitJob({ type: 'clearDoubt', boxId }))).toBe('nothingInDoubt')
  })
  test('a step of before another plan is undone, not shown as done', () => {
    const { scenario, boxId, steps } = atDoor()
    const give = (letter: string, role: string) =>
      scenario.must(scenario.submitJob({ type: 'establishRole', boxId, letter, ...byHand(role as 'load') }))
    give('A', 'load')
    scenario.must(scenario.submitJob({ type: 'markStep', boxId, gang: 1, stepId: 'connect:load', done: true }))
    give('D', 'load')
    const load = steps().find((step) => step.id === 'connect:load')!
    expect(stepDone(scenario.job, boxId, 1, load)).toBeNull()
    expect(stepsToUndo(scenario.job, boxId, 1, steps())).toMatchObject([{ id: 'connect:load', by: 'AT' }])
    scenario.must(scenario.submitJob({ type: 'markStep', boxId, gang: 1, stepId: 'connect:load', done: false }))
    expect(stepsToUndo(scenario.job, boxId, 1, steps())).toEqual([])
  })
  test('a test of before the box was opened again says nothing of what is in it now', () => {
    const { scenario, boxId } = atDoor()
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId }))
    scenario.takeTagsOff()
    scenario.powerOn('1')
    const test = () => {
      for (const check of checksFor(scenario.job, scenario.site, point(scenario)))
        scenario.must(scenario.submitJob({ type: 'testPoint', pointId: point(scenario).id, checkId: check.id, result: 'pass', note: '' }))
    }
    test()
    expect(pointStatus(scenario.job, scenario.site, point(scenario))).toBe('passed')
    scenario.openAndTag(['1'])
    scenario.prove('door')
    expect(pointStatus(scenario.job, scenario.site, point(scenario))).toBe('untested')
  })
  test('“the box is closed” is taken back within a minute, by whoever said it, while nothing came between', () => {
    const { scenario, boxId } = atDoor()
    const { proofId } = scenario.box('door')
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId }))
    expect(refused(scenario.submitSite({ type: 'undoClose', boxId }, crew.ben))).toBe('tooLate')
    scenario.must(scenario.submitSite({ type: 'undoClose', boxId }))
    expect(scenario.site.proofs[proofId!]!.status).toBe('living')
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId }))
    scenario.now += 61_000
    expect(refused(scenario.submitSite({ type: 'undoClose', boxId }))).toBe('tooLate')
    const other = atDoor()
    other.scenario.must(other.scenario.submitSite({ type: 'closeBox', boxId: other.boxId }))
    other.scenario.must(other.scenario.submitSite({ type: 'observeLive', boxId: other.boxId, what: 'lightOn' }, crew.ben))
    expect(refused(other.scenario.submitSite({ type: 'undoClose', boxId: other.boxId }))).toBe('seenTooEarly')
  })
  test('one lock hangs in one place', () => {
    const { scenario } = visited()
    const hang = (number: string) => {
      const breakerId = scenario.breaker(number).id
      scenario.submitSite({ type: 'observeBreaker', breakerId, state: 'open' })
      return refused(scenario.submitSite({ type: 'hangTag', tagId: scenario.newId(), breakerId, lock: 'red 1' }))
    }
    expect([hang('1'), hang('2')]).toEqual(['accepted', 'lockElsewhere'])
  })
})

describe('a visit is where its people can be', () => {
  const booked = [{ name: 'Ann Test', what: 'Net Loft', from: '2 Mar 8:00', to: '2 Mar 10:00' }]
  test('somebody who is elsewhere at that time is not booked, unless it is said that it is meant', () => {
    const { scenario, visitId } = visited()
    const move = (over: { alsoBooked?: boolean } = {}) =>
      scenario.submitJob(
        { type: 'moveVisit', visitId, ...times, personIds: [crew.ann.personId, crew.ben.personId], ...over },
        crew.office,
        {
          bookedElsewhere: booked,
        },
      )
    expect(move()).toMatchObject({
      refusal: { code: 'doubleBooked', reasons: ['Ann Test is at Net Loft from 2 Mar 8:00 to 2 Mar 10:00.'] },
    })
    scenario.must(move({ alsoBooked: true }))
  })
  test('a promise of most of a day is a slip of the clock', () => {
    const { scenario, visitId } = visited()
    const windowTo = '2026-03-03T07:00:00.000Z'
    expect(
      refused(scenario.submitJob({ type: 'moveVisit', visitId, ...times, windowTo, personIds: [crew.ann.personId] }, crew.office)),
    ).toBe('timesOdd')
  })
})

test('a dot is no signature', () => {
  const { scenario } = wired()
  const signed = (strokes: [number, number][][]) =>
    refused(scenario.submitJob({ type: 'signHandover', signatureId: scenario.newId(), signer: 'C. Test', strokes, acceptedDefectIds: [] }))
  expect(signed([[[0.5, 0.5]]])).toBe('noSignature')
  const around = [0.4, 0.41, 0.4, 0.41].map((x): [number, number] => [x, 0.5])
  expect(signed([around])).toBe('noSignature')
  expect(
    signed([
      [
        [0.1, 0.5],
        [0.3, 0.4],
        [0.6, 0.6],
      ] as [number, number][],
    ]),
  ).toBe('accepted')
})

describe('a step is known by its sentence', () => {
  const said = (text: string) =>
    ({
      type: 'stepMarked',
      version: 3,
      payload: { boxId: 'b', gang: 1, stepId: 's', done: true, text, modelId: null, inDoubt: false },
    }) as never
  test.each([
    ['The device that carries the load listens on D.', 'The device that carries the load takes the signal on D.'],
    [
      'The switch stays as a plain one: A on one screw, the conductor that is listened to on the other.',
      'The switch stays as a plain one: A on one screw, the signal conductor on the other.',
    ],
    ['Conductor D to ground.', 'Conductor D to ground.'],
  ])('%s', (before, now) => expect(understood(jobStream.reducer, said(before))!.payload).toMatchObject({ text: now }))

  test('done is done, in the words of either supply', () => {
    const step = { id: 'connect:ground', text: 'Conductor D to {ground}.' } as never
    const marked = (text: string) =>
      ({ boxes: { b: { steps: { '1:connect:ground': { by: 'AT', at: '', text, modelId: null } }, devices: {} } } }) as never
    for (const text of ['Conductor D to ground.', 'Conductor D to earth.']) expect(stepDone(marked(text), 'b', 1, step)).not.toBeNull()
    expect(stepDone(marked('Conductor C to ground.'), 'b', 1, step)).toBeNull()
  })
})

test('at the door the crew decides; a visit that is not begun needs a reason', () => {
  const { scenario, visitId } = visited()
  const decide = (decision: 'go' | 'no', note = '', who = crew.ann) =>
    refused(
      scenario.submitJob({ type: 'decideAtDoor', visitId, decision, answers: { panel: decision === 'go' ? 'yes' : 'no' }, note }, who),
    )
  expect(decide('no')).toBe('reasonMissing')
  expect(decide('go', '', crew.ida)).toBe('notOnVisit')
  expect(decide('no', 'panel behind a piano')).toBe('accepted')
  expect(scenario.job.visits[visitId]!.door).toMatchObject({ decision: 'no', answers: { panel: 'no' }, note: 'panel behind a piano' })
  const event = scenario.log.findLast(({ type }) => type === 'doorDecided')!
  expect(historyLine(event, scenario.job, scenario.site, () => '').what).toBe('decided at the door: does not begin – panel behind a piano')
  expect(decide('go')).toBe('accepted')
})
