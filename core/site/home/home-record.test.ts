import { crew, Scenario, testFile } from '../../testing/scenario'
import { atServer, canClose, canTouch, type SiteCommand } from '../index'

const vantage = (scenario: Scenario) => atServer(new Date(scenario.now).toISOString(), 120)
const touches = (scenario: Scenario, name = 'door', who = crew.ann) =>
  canTouch(scenario.site, scenario.box(name).id, who, vantage(scenario)).yes
/** Ann with her hands in the door box, proven dead. */
function handsInDoor(): Scenario {
  const scenario = new Scenario()
  scenario.openAndTag(['1'])
  scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('door').id }))
  scenario.conductors('door')
  scenario.prove('door')
  expect(touches(scenario)).toBe(true)
  return scenario
}
const code = (result: ReturnType<Scenario['submitSite']>) => (result.ok ? null : result.refusal.code)
const facts = { poles: 1, amps: 15, labelAsFound: 'dryer', protection: 'unknown' as const, state: 'closed' as const }
const hall = (scenario: Scenario) => scenario.site.roomOrder[0]!

describe('a box that nobody had listed', () => {
  const found = (scenario: Scenario, over: object = {}) => {
    const boxId = scenario.newId()
    const command = {
      type: 'recordBox',
      boxId,
      roomId: hall(scenario),
      name: 'niche',
      kind: 'wall',
      gangs: 1,
      breakerIds: [],
      farBoxIds: [],
      ...over,
    }
    return { boxId, result: scenario.submitSite(command as SiteCommand) }
  }
  test('is found by the crew or the office, not by a stranger, and waits without network', () => {
    const scenario = new Scenario()
    scenario.must(found(scenario).result)
    expect(scenario.box('niche')).toMatchObject({ closure: 'closed', unknownFeed: true, retired: null })
    scenario.offCrew.add(crew.ben.personId)
    const stranger = { type: 'recordRoom', roomId: scenario.newId(), name: 'attic' } as const
    expect(code(scenario.submitSite(stranger, crew.ben))).toBe('notOnCrew')
    expect(code(scenario.submitSite(stranger, crew.office))).toBe(null)
  })
  test('with a switch that acts on a box somebody works in: the proof there ends, and they are alarmed, wherever it came from', () => {
    const scenario = handsInDoor()
    const { result } = found(scenario, { farBoxIds: [scenario.box('door').id] })
    scenario.must(result)
    expect(touches(scenario)).toBe(false)
    expect(Object.values(scenario.site.alarms).map(({ personId }) => personId)).toEqual([crew.ann.personId])
    expect(scenario.box('door').farBoxIds).toEqual([scenario.box('niche').id])
  })
  test('without one it disturbs nobody', () => {
    const scenario = handsInDoor()
    scenario.must(found(scenario).result)
    expect(touches(scenario)).toBe(true)
  })
  test('open, with a feed nobody knows, it keeps every circuit from being closed', () => {
    const scenario = new Scenario()
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('3').id, state: 'open' }))
    const { boxId, result } = found(scenario)
    scenario.must(result)
    scenario.must(scenario.submitSite({ type: 'openBox', boxId }, crew.ben))
    expect(canClose(scenario.site, scenario.breaker('3').id, crew.ann).yes).toBe(false)
  })
  test('what cannot be is said', () => {
    const scenario = new Scenario()
    scenario.must(found(scenario).result)
    expect(code(found(scenario).result)).toBe('nameTaken')
    expect(code(found(scenario, { name: 'a', roomId: scenario.newId() }).result)).toBe('noSuchRoom')
    expect(code(found(scenario, { name: 'b', breakerIds: [scenario.newId()] }).result)).toBe('noSuchBreaker')
    expect(code(found(scenario, { name: 'c', farBoxIds: [scenario.newId()] }).result)).toBe('noSuchBox')
  })
})

describe('correcting a box', () => {
  test('another name for a box with hands in it ends its proof: people would go to another box', () => {
    const scenario = handsInDoor()
    scenario.must(scenario.submitSite({ type: 'correctBox', boxId: scenario.box('door').id, name: 'front door' }, crew.ben))
    expect(touches(scenario, 'front door')).toBe(false)
  })
  test('its gangs, or the name of a closed one, end nothing', () => {
    const scenario = handsInDoor()
    scenario.must(scenario.submitSite({ type: 'correctBox', boxId: scenario.box('door').id, gangs: 2 }, crew.ben))
    scenario.must(scenario.submitSite({ type: 'correctBox', boxId: scenario.box('stair').id, name: 'stair foot' }, crew.ben))
    expect(touches(scenario)).toBe(true)
  })
  test('a switch elsewhere that acts on it ends the proofs at both ends', () => {
    const scenario = handsInDoor()
    const [door, stair] = [scenario.box('door').id, scenario.box('stair').id]
    scenario.must(scenario.submitSite({ type: 'correctBox', boxId: stair, farBoxIds: [door] }, crew.office))
    expect(touches(scenario)).toBe(false)
    expect([scenario.box('door').farBoxIds, scenario.box('stair').farBoxIds]).toEqual([[stair], [door]])
  })
})

describe('taking a box off the record', () => {
  const retire = (scenario: Scenario, who = crew.ann) =>
    scenario.submitSite({ type: 'retireBox', boxId: scenario.box('door').id, reason: 'listed twice' }, who)
  test('a permission: closed up, nothing under way, as things are now, by who may', () => {
    const scenario = handsInDoor()
    expect(code(retire(scenario))).toBe('boxOpen')
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
    expect(code(retire(scenario, crew.ida))).toBe('licenceNeeded')
    scenario.heldMs = 600_000
    expect(code(retire(scenario))).toBe('onlineOnly')
    scenario.heldMs = 0
    scenario.must(retire(scenario))
    expect(scenario.site.boxOrder).not.toContain(scenario.box('door').id)
  })
  test('somebody who was away says that it is open: it is back, and its circuit stays off', () => {
    const scenario = new Scenario()
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open' }))
    scenario.must(retire(scenario))
    scenario.heldMs = 900_000
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('door').id }, crew.ben))
    scenario.heldMs = 0
    expect(scenario.box('door')).toMatchObject({ retired: null, closure: 'opened' })
    expect(scenario.site.boxOrder).toContain(scenario.box('door').id)
    expect(canClose(scenario.site, scenario.breaker('1').id, crew.ann).yes).toBe(false)
  })
})

describe('breakers', () => {
  test('under a tag its number is not corrected: the lock would seem to hang on another lever', () => {
    const scenario = handsInDoor()
    const renumber = { type: 'correctBreaker', breakerId: scenario.breaker('1').id, number: '9' } as const
    expect(code(scenario.submitSite(renumber, crew.ben))).toBe('tagHangs')
    scenario.must(scenario.submitSite({ type: 'correctBreaker', breakerId: renumber.breakerId, labelAsFound: 'hall', amps: 20 }))
    expect(touches(scenario)).toBe(true)
  })
  test('under another number nobody knows how it stands, and no box is shown apart from it', () => {
    const scenario = new Scenario()
    const { id } = scenario.breaker('2')
    scenario.site.boxes[scenario.box('door').id]!.ruledOut[id] = { seq: 1, at: '' }
    scenario.must(scenario.submitSite({ type: 'correctBreaker', breakerId: id, number: '12' }))
    expect(scenario.breaker('12').state).toBe('unknown')
    expect(scenario.box('door').ruledOut).toEqual({})
  })
  test('one that nobody listed: closing it asks for every box that was proven while it was off', () => {
    const scenario = handsInDoor()
    const panelId = Object.keys(scenario.site.panels)[0]!
    scenario.must(
      scenario.submitSite({ type: 'recordBreaker', breakerId: scenario.newId(), panelId, number: '5', ...facts, state: 'open' }, crew.ben),
    )
    expect(canClose(scenario.site, scenario.breaker('5').id, crew.ben)).toMatchObject({
      yes: false,
      reasons: [expect.stringMatching(/may feed it too/)],
    })
    expect(code(scenario.submitSite({ type: 'recordBreaker', breakerId: scenario.newId(), panelId, number: '5', ...facts }))).toBe(
      'nameTaken',
    )
  })
  test('taken off the record only where nothing rests on it, by a licensed person who looks now', () => {
    const scenario = new Scenario()
    const retire = (number: string, who = crew.ann) =>
      scenario.submitSite({ type: 'retireBreaker', breakerId: scenario.breaker(number).id, reason: 'the slot is empty' }, who)
    expect(code(retire('1'))).toBe('breakerInUse')
    expect(code(retire('main'))).toBe('feedsPanel')
    expect(code(retire('3', crew.ida))).toBe('licenceNeeded')
    scenario.openAndTag(['3'])
    expect(code(retire('3'))).toBe('breakerInUse')
    scenario.takeTagsOff()
    const { id } = scenario.breaker('3')
    scenario.must(retire('3'))
    expect([scenario.site.breakers[id], scenario.site.retired[id]!.name]).toEqual([undefined, '3'])
  })
})

describe('panels', () => {
  test('a second feed to a panel ends what rests on it, and boxes of unknown feed with it', () => {
    const scenario = new Scenario({ ...testFile, boxes: [testFile.boxes[2]!, testFile.boxes[0]!], points: [testFile.points[0]!] })
    scenario.openAndTag(['main'])
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('attic').id }))
    scenario.conductors('attic')
    scenario.prove('attic')
    expect(touches(scenario, 'attic')).toBe(true)
    const panelId = scenario.newId()
    const panel = { type: 'recordPanel', panelId, name: 'behind the dryer', place: 'mud room' } as const
    scenario.must(scenario.submitSite({ ...panel, fedBy: null }, crew.ben))
    expect(touches(scenario, 'attic')).toBe(true)
    scenario.must(scenario.submitSite({ ...panel, fedBy: scenario.breaker('3').id }, crew.ben))
    expect(touches(scenario, 'attic')).toBe(false)
    expect(scenario.breaker('3')).toMatchObject({ role: 'feeder', suppliesPanelId: panelId })
  })
  test('feeds no panel twice, and itself never', () => {
    const scenario = new Scenario()
    const [first] = Object.values(scenario.site.panels)
    const sub = scenario.newId()
    const three = scenario.breaker('3').id
    scenario.must(scenario.submitSite({ type: 'recordPanel', panelId: sub, name: 'sub', place: '', fedBy: three }))
    scenario.must(scenario.submitSite({ type: 'recordBreaker', breakerId: scenario.newId(), panelId: sub, number: 'S1', ...facts }))
    const feed = (panelId: string, name: string, fedBy: string) =>
      code(scenario.submitSite({ type: 'recordPanel', panelId, name, place: '', fedBy }))
    expect(feed(first!.id, first!.name, scenario.breaker('S1').id)).toBe('feedsItself')
    expect(feed(first!.id, first!.name, scenario.breaker('1').id)).toBe('feedsItself')
    expect(feed(scenario.newId(), 'third', three)).toBe('feedsAnother')
    expect(feed(scenario.newId(), 'sub', scenario.breaker('2').id)).toBe('nameTaken')
  })
})

describe('points', () => {
  const point = (scenario: Scenario, over: object = {}) => ({ ...scenario.point('Door light'), ...over })
  test('switched from a second box after all: both are read in all positions, the proof there ends', () => {
    const scenario = handsInDoor()
    const [door, stair] = [scenario.box('door').id, scenario.box('stair').id]
    const controls = [
      { boxId: door, gang: 1 },
      { boxId: stair, gang: 2 },
    ]
    scenario.must(scenario.submitJob({ type: 'recordPoint', point: point(scenario, { controls }) }))
    expect(touches(scenario)).toBe(false)
    expect(scenario.box('stair').farBoxIds).toEqual([door])
  })
  test('its load and name end nothing; a gang that is not there, a name twice, a box that is off the record are said', () => {
    const scenario = handsInDoor()
    const was = point(scenario)
    const give = (over: object) => code(scenario.submitJob({ type: 'recordPoint', point: { ...was, ...over } }))
    expect(give({ load: { technology: 'fan', lamps: 1, wattsEach: 60, dimmable: false }, name: 'Door fan' })).toBe(null)
    expect(touches(scenario)).toBe(true)
    expect(give({ controls: [{ boxId: scenario.box('door').id, gang: 4 }] })).toBe('noSuchGang')
    expect(give({ name: 'stair light ' })).toBe('nameTaken')
    expect(give({ controls: [{ boxId: scenario.newId(), gang: 1 }] })).toBe('noSuchBox')
    expect(give({ roomId: scenario.newId() })).toBe('noSuchRoom')
  })
  test('a point with a device in it stays where the device is, and on the job', () => {
    const scenario = handsInDoor()
    scenario.wire('door', 1, ['Door light'], 'SN-1', '34970112332', { A: 'line', B: 'neutral', C: 'load' })
    const elsewhere = point(scenario, { controls: [{ boxId: scenario.box('stair').id, gang: 2 }] })
    expect(code(scenario.submitJob({ type: 'recordPoint', point: elsewhere }))).toBe('unitInstalled')
    expect(code(scenario.submitJob({ type: 'retirePoint', pointId: elsewhere.id, reason: 'a plug-in lamp' }))).toBe('unitInstalled')
    scenario.must(scenario.submitJob({ type: 'retirePoint', pointId: scenario.point('Stair light').id, reason: 'a plug-in lamp' }))
    expect(scenario.job.pointOrder).toHaveLength(1)
  })
})

test('what is noted of a box stays piece by piece, and can be taken back', () => {
  const scenario = new Scenario()
  const { id: boxId } = scenario.box('door')
  const note = (noted: object) => scenario.must(scenario.submitSite({ type: 'noteBox', boxId, noted }))
  note({ neutral: 'here', volumeIn3: 22.5 })
  note({ ground: 'none' })
  note({ neutral: null })
  expect(scenario.site.surveys[boxId]).toEqual({ ground: 'none' })
  expect(scenario.box('door').volumeIn3).toBe(22.5)
  const beyond = { gang: 3, is: 'switch' as const, holds: null, onWhen: null, keep: null }
  expect(code(scenario.submitSite({ type: 'noteBox', boxId, noted: { old: [beyond] } }))).toBe('noSuchGang')
})

test('a box with a device in it neither leaves the record nor loses the gang it sits in', () => {
  const scenario = handsInDoor()
  scenario.wire('door', 1, ['Door light'], 'SN-1', '34970112332', { A: 'line', B: 'neutral', C: 'load' })
  scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
  const boxId = scenario.box('door').id
  expect(code(scenario.submitSite({ type: 'retireBox', boxId, reason: 'listed twice' }))).toBe('unitInstalled')
  scenario.must(scenario.submitSite({ type: 'correctBox', boxId, gangs: 3 }))
  scenario.must(scenario.submitSite({ type: 'correctBox', boxId, gangs: 1 }))
})

test('a wiring that was laid for other places is no plan any more', () => {
  const scenario = new Scenario()
  const [door, stair] = [scenario.box('door').id, scenario.box('stair').id]
  const wiring = { notes: null, readings: [], plan: {} as never, planned: { seq: 1, personId: '', initials: '' }, observed: [] }
  const boxes = { [door]: { roles: {}, devices: {}, steps: {}, wiring: structuredClone(wiring) } }
  Object.assign(scenario.job.boxes, boxes)
  const load = { ...scenario.point('Door light').load, lamps: 5 }
  scenario.must(scenario.submitJob({ type: 'recordPoint', point: { ...scenario.point('Door light'), load } }))
  expect(scenario.job.boxes[door]!.wiring!.plan).not.toBeNull()
  const controls = [
    { boxId: door, gang: 1 },
    { boxId: stair, gang: 2 },
  ]
  scenario.must(scenario.submitJob({ type: 'recordPoint', point: { ...scenario.point('Door light'), controls } }))
  expect(scenario.job.boxes[door]!.wiring).toMatchObject({ plan: null, planned: undefined })
})

describe('what was said by mistake', () => {
  test('two boxes are untied by a licensed person, now, with both closed up', () => {
    const scenario = handsInDoor()
    const [boxId, otherId] = [scenario.box('door').id, scenario.box('stair').id]
    const untie = (who = crew.ann) => code(scenario.submitSite({ type: 'untieSwitches', boxId, otherId, reason: 'another light' }, who))
    expect(untie()).toBe('notTied')
    scenario.must(scenario.submitSite({ type: 'correctBox', boxId, farBoxIds: [otherId] }))
    expect(untie()).toBe('boxOpen')
    scenario.must(scenario.submitSite({ type: 'confirmStopped' }))
    scenario.prove('door')
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId }))
    expect(untie(crew.ida)).toBe('licenceNeeded')
    scenario.heldMs = 900_000
    expect(untie()).toBe('onlineOnly')
    scenario.heldMs = 0
    expect(untie()).toBe(null)
    expect([scenario.box('door').farBoxIds, scenario.box('stair').farBoxIds]).toEqual([[], []])
  })
  test('a panel goes while nothing sits in it, and its feeder is a branch again', () => {
    const scenario = new Scenario()
    const panelId = scenario.newId()
    scenario.must(scenario.submitSite({ type: 'recordPanel', panelId, name: 'sub', place: '', fedBy: scenario.breaker('3').id }))
    const retire = (id: string, who = crew.ann) =>
      code(scenario.submitSite({ type: 'retirePanel', panelId: id, reason: 'it is a meter' }, who))
    expect(retire(Object.keys(scenario.site.panels)[0]!)).toBe('panelInUse')
    expect(retire(panelId, crew.ida)).toBe('licenceNeeded')
    expect(retire(panelId)).toBe(null)
    expect(scenario.breaker('3')).toMatchObject({ role: 'branch', suppliesPanelId: null })
  })
  test('an open box is not taken out of the job: the crew would leave it behind unseen', () => {
    const scenario = new Scenario()
    const { id: boxId } = scenario.box('attic')
    scenario.must(scenario.submitSite({ type: 'openBox', boxId }))
    expect(code(scenario.submitJob({ type: 'takeInBox', boxId, part: false }))).toBe('boxOpen')
  })
})
