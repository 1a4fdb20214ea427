import { cableShapes } from '../connect'
import type { BoxState, Conductor, ConductorColour } from '../site'
import { atServer, nextPowerStep, stepAfterClosing } from '../site'
import { inventedCode } from '../testing/codes'
import { byHand, crew, Scenario, testFile, testModel } from '../testing/scenario'
import { branchSettingsSchema, schemeIds } from '../units'
import { checksFor, guessFound, guideJob, nextBoxOf, nextWorkStep, pointsInOrder, wantsDevice } from './index'

const method = branchSettingsSchema.parse({})
const times = {
  startsAt: '2026-03-02T08:00:00.000Z',
  endsAt: '2026-03-02T10:00:00.000Z',
  windowFrom: '2026-03-02T08:00:00.000Z',
  windowTo: '2026-03-02T09:00:00.000Z',
}
function scheduled(file = testFile, people = [crew.ann.personId, crew.ben.personId]) {
  const scenario = new Scenario(file)
  const visitId = scenario.newId()
  scenario.must(
    scenario.submitJob({ type: 'scheduleVisit', visitId, kind: 'install', callbackId: null, ...times, personIds: people }, crew.office),
  )
  return { scenario, visitId }
}
const clockOf = (scenario: Scenario) => atServer(new Date(scenario.now).toISOString(), 120)
const askerOf = (actor = crew.ann) => ({ personId: actor.personId, licensed: actor.licensed })
const guideOf = (scenario: Scenario, actor = crew.ann) => guideJob(scenario.job, scenario.site, askerOf(actor), clockOf(scenario))
const single = { ...testFile, boxes: [testFile.boxes[0]!], points: [testFile.points[0]!] }
const pair = {
  ...testFile,
  boxes: [testFile.boxes[0]!, { ...testFile.boxes[0]!, key: 'window', name: 'window' }],
  points: [testFile.points[0]!, { ...testFile.points[0]!, name: 'Window light', controls: [{ box: 'window', gang: 1 }] }],
}

/** Does what the guide says, and nothing else, until it says what is wanted. What it said, in order. */
function follow(scenario: Scenario, until: string, actor = crew.ann): string[] {
  const said: string[] = []
  for (let turn = 0; turn < 200; turn++) {
    const guide = guideOf(scenario, actor)
    if (!guide || guide.kind === until) return said
    if (guide.kind === 'arrive') {
      said.push('arrive')
      scenario.must(scenario.submitJob({ type: 'arrive', visitId: guide.visitId }, actor))
      continue
    }
    if (guide.kind === 'after') {
      const step = stepAfterClosing(scenario.site, guide.boxId, askerOf(actor))
      said.push(`${scenario.site.boxes[guide.boxId]!.name}: ${step.kind}`)
      const grantId = scenario.newId()
      if (step.kind === 'untag') scenario.must(scenario.submitSite({ type: 'removeTag', tagId: step.id! }, actor))
      else if (step.kind === 'askClose')
        scenario.must(scenario.submitSite({ type: 'requestClose', grantId, breakerId: step.breakerId! }, actor))
      else scenario.must(scenario.submitSite({ type: 'answerPermit', grantId: step.id!, answer: 'closed' }, actor))
      continue
    }
    if (guide.kind === 'tests') {
      const point = pointsInOrder(scenario.job).find((one) => guide.title === `Test ${one.name}`)
      if (!point) return [...said, guide.title]
      said.push(guide.title)
      for (const { id } of checksFor(scenario.job, scenario.site, point))
        scenario.must(scenario.submitJob({ type: 'testPoint', pointId: point.id, checkId: id, result: 'pass', note: '' }, actor))
      continue
    }
    if (guide.kind !== 'box') return [...said, `${guide.kind}: ${guide.title}`]
    const { boxId } = guide
    const box = scenario.site.boxes[boxId]!
    const step = nextPowerStep(scenario.site, boxId, askerOf(actor), clockOf(scenario))
    if (step.kind === 'open')
      scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: step.breakerId!, state: 'open' }, actor))
    else if (step.kind === 'tag')
      scenario.must(
        scenario.submitSite(
          { type: 'hangTag', tagId: scenario.newId(), breakerId: step.breakerId!, lock: `AT ${step.breakerId!.slice(-3)}` },
          actor,
        ),
      )
    else if (step.kind === 'conductors') scenario.conductors(box.name, 'ABCD', actor)
    else if (step.kind === 'plate') scenario.must(scenario.submitSite({ type: 'openBox', boxId }, actor))
    else if (step.kind === 'prove') scenario.prove(box.name, actor)
    else if (step.kind === 'work') work(scenario, box, actor)
    else throw new Error(`Nobody can do that: ${step.kind}`)
    said.push(`${box.name}: ${step.kind}`)
  }
  throw new Error(`No end: ${said.slice(-8).join(', ')}`)
}
/** Everything the box wants, one step after the other. */
function work(scenario: Scenario, box: BoxState, actor = crew.ann): void {
  const kinds: string[] = []
  for (let turn = 0; turn < 60; turn++) {
    const step = nextWorkStep(scenario.job, scenario.site, box.id, method)
    if (kinds.at(-1) !== step.kind) kinds.push(step.kind)
    if (step.kind === 'device') {
      const pointIds = pointsInOrder(scenario.job)
        .filter((point) => point.controls.some((one) => one.boxId === box.id && one.gang === step.gang))
        .map(({ id }) => id)
      scenario.must(scenario.submitJob({ type: 'chooseDevice', boxId: box.id, gang: step.gang, modelId: testModel.id, pointIds }, actor))
    } else if (step.kind === 'bench') {
      for (const [letter, role] of Object.entries({ A: 'line', B: 'neutral', C: 'ground', D: 'load' }))
        scenario.must(scenario.submitJob({ type: 'establishRole', boxId: box.id, letter, ...byHand(role as 'line') }, actor))
    } else if (step.kind === 'connect')
      scenario.must(scenario.submitJob({ type: 'markStep', boxId: box.id, gang: step.gang, stepId: step.step.id, done: true }, actor))
    else if (step.kind === 'unit') {
      const count = Object.keys(scenario.job.units).length
      scenario.must(
        scenario.submitJob(
          {
            type: 'recordUnit',
            unitId: scenario.newId(),
            boxId: box.id,
            gang: step.gang,
            serial: `SN-${count}`,
            setupCode: inventedCode(count),
            setupCodeAgain: '',
          },
          actor,
        ),
      )
    } else if (step.kind === 'close') {
      scenario.must(scenario.submitSite({ type: 'closeBox', boxId: box.id }, actor))
      // The serial is read while the label can still be seen.
      expect(kinds).toEqual(['device', 'bench', 'connect', 'unit', 'connect', 'close'])
      return
    }
  }
  throw new Error(`No end: ${kinds.join(', ')}`)
}

test('whoever follows the guide alone has a box wired, the power back and its light tested', () => {
  const { scenario } = scheduled(single)
  expect(follow(scenario, 'handover')).toEqual([
    'arrive',
    'door: open',
    'door: tag',
    'door: conductors',
    'door: prove',
    'door: work',
    'door: untag',
    'door: askClose',
    'door: answer',
    'Test Door light',
    'Every device paired and named',
  ])
})

test('two boxes on one breaker: the power comes back once, after both', () => {
  const { scenario } = scheduled(pair)
  const said = follow(scenario, 'handover')
  expect(said.filter((one) => /open|tag|askClose/.test(one))).toEqual(['door: open', 'door: tag', 'door: untag', 'door: askClose'])
  expect(said.indexOf('window: work')).toBeLessThan(said.indexOf('door: untag'))
})

test('a box at hand comes before all others; that of a mate is left to them', () => {
  const { scenario } = scheduled(pair)
  scenario.must(scenario.submitJob({ type: 'arrive', visitId: Object.keys(scenario.job.visits)[0]! }))
  scenario.openAndTag(['1'])
  scenario.conductors('window', 'ABCD')
  scenario.prove('window')
  expect(guideOf(scenario)).toMatchObject({ kind: 'box', boxId: scenario.box('window').id })
  expect(guideOf(scenario, crew.ben)).toMatchObject({ kind: 'box', boxId: scenario.box('door').id })
  expect(nextBoxOf(scenario.job, scenario.site, scenario.box('window').id)?.name).toBe('door')
  // A plate that Ben has just taken off is his, before he has proven anything.
  scenario.openAndTag(['1'], crew.ben)
  scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('window').id }))
  scenario.conductors('door', 'ABCD', crew.ben)
  expect(scenario.box('door').closure).toBe('opened')
  expect(guideOf(scenario)).toMatchObject({ kind: 'box', boxId: scenario.box('window').id })
  expect(guideOf(scenario, crew.ben)).toMatchObject({ kind: 'box', boxId: scenario.box('door').id })
  // Nobody of another crew is told anything.
  expect(guideOf(scenario, crew.ida)).toBeNull()
})

test('where the old switch stays no device is asked for, and it may be taken back', () => {
  const { scenario } = scheduled(single)
  const boxId = scenario.box('door').id
  const keep = (stays: boolean) => scenario.submitJob({ type: 'keepOldSwitch', boxId, gang: 1, stays })
  expect(wantsDevice(scenario.job, boxId, 1)).toBe(true)
  scenario.must(keep(true))
  expect(wantsDevice(scenario.job, boxId, 1)).toBe(false)
  scenario.must(keep(false))
  expect(wantsDevice(scenario.job, boxId, 1)).toBe(true)
  expect(scenario.submitJob({ type: 'keepOldSwitch', boxId, gang: 2, stays: true })).toMatchObject({ refusal: { code: 'noSuchGang' } })
  scenario.must(keep(true))
  const pointIds = Object.keys(scenario.job.points)
  scenario.must(scenario.submitJob({ type: 'chooseDevice', boxId, gang: 1, modelId: testModel.id, pointIds }))
  expect(scenario.job.boxes[boxId]!.oldStays).toEqual([])
  expect(keep(true)).toMatchObject({ refusal: { code: 'deviceChosen' } })
})

test('a serial that is not at hand is put off and asked for again at closing', () => {
  const { scenario } = scheduled(single)
  const boxId = scenario.box('door').id
  scenario.openAndTag(['1'])
  scenario.conductors('door', 'ABCD')
  scenario.prove('door')
  scenario.must(
    scenario.submitJob({ type: 'chooseDevice', boxId, gang: 1, modelId: testModel.id, pointIds: Object.keys(scenario.job.points) }),
  )
  for (const [letter, role] of Object.entries({ A: 'line', B: 'neutral', C: 'ground', D: 'load' }))
    scenario.must(scenario.submitJob({ type: 'establishRole', boxId, letter, ...byHand(role as 'line') }))
  for (let turn = 0; turn < 20; turn++) {
    const step = nextWorkStep(scenario.job, scenario.site, boxId, method)
    if (step.kind !== 'connect') break
    scenario.must(scenario.submitJob({ type: 'markStep', boxId, gang: 1, stepId: step.step.id, done: true }))
  }
  expect(nextWorkStep(scenario.job, scenario.site, boxId, method)).toEqual({ kind: 'unit', gang: 1 })
  expect(nextWorkStep(scenario.job, scenario.site, boxId, method, new Set([1]))).toMatchObject({
    kind: 'connect',
    step: { phase: 'close' },
  })
})

describe('what is usual for such cables', () => {
  const box = (cables: ConductorColour[][], gangs = 1, feeds = 1) => {
    let letter = 0
    const conductors = cables.flatMap((colours, index) =>
      colours.map((colour): Conductor => ({
        letter: String.fromCharCode(65 + letter++),
        colour,
        gaugeAwg: 14,
        areaMm2: null,
        cable: `cable ${index + 1}`,
        course: 'ends',
      })),
    )
    return { conductors, gangs, breakerIds: Array.from({ length: feeds }, (_, index) => `b${index}`) }
  }
  const two: ConductorColour[] = ['black', 'white', 'bare']
  const three: ConductorColour[] = ['black', 'red', 'white', 'bare']

  // Common practice, no source: the plain ways a box is wired in the two supplies.
  test.each([
    ['a loop', box([two]), 0, [], ['A', 'B']],
    ['feed and light', box([two, two]), 0, ['C F', 'B E'], ['A', 'D']],
    ['feed and light, 230 V', box([cableShapes.iec230[0]!.colours, cableShapes.iec230[0]!.colours]), 0, ['C F', 'B E'], ['A', 'D']],
    ['two gangs, two feeds', box([two, two, two, two], 2, 2), 0, ['C F I L', 'B E', 'H K'], ['A', 'D', 'G', 'J']],
  ])('%s', (_, from, far, splices, onSwitch) => {
    const guess = guessFound(from, far)
    expect(guess.whole).toBe(true)
    expect(guess.splices.map((letters) => letters.join(' '))).toEqual(splices)
    expect(guess.oldSwitches.flatMap(({ terminals }) => Object.values(terminals).flat())).toEqual(onSwitch)
  })
  test.each([
    ['three cables in one box', box([two, two, two]), 0],
    ['two gangs on one feed', box([two, two, two], 2, 1), 0],
    ['a 4-way', box([three, three]), 2],
    ['a 3-way with two cables of three', box([three, three]), 1],
    ['three-core cable without a neutral colour beside a feed', box([cableShapes.iec230[1]!.colours, cableShapes.iec230[0]!.colours]), 1],
    ['one conductor', box([['unknown']]), 0],
  ])('nothing is guessed for %s', (_, from, far) => {
    const guess = guessFound(from, far)
    expect(guess.whole).toBe(false)
    expect(guess.oldSwitches).toEqual([])
  })
  test('of a 3-way its splices, and never what is on the common: a traveler taken for it would be called line', () => {
    expect(guessFound(box([two, three]), 1)).toEqual({
      splices: [
        ['C', 'G'],
        ['B', 'F'],
      ],
      oldSwitches: [],
      whole: false,
    })
    expect(guessFound(box([three]), 1)).toEqual({ splices: [], oldSwitches: [], whole: false })
  })
  test('no conductor is said to be in two places, and every letter is one of the box', () => {
    for (const scheme of schemeIds)
      for (const first of cableShapes[scheme])
        for (const second of cableShapes[scheme])
          for (const far of [0, 1, 2])
            for (const [gangs, feeds] of [
              [1, 1],
              [2, 2],
            ] as const) {
              const from = box([first.colours, second.colours, first.colours, second.colours].slice(0, gangs * 2), gangs, feeds)
              const { splices, oldSwitches } = guessFound(from, far)
              const all = [...splices.flat(), ...oldSwitches.flatMap(({ terminals }) => Object.values(terminals).flat())]
              expect(new Set(all).size).toBe(all.length)
              expect(from.conductors.map(({ letter }) => letter)).toEqual(expect.arrayContaining(all))
            }
  })
})
