import { channelsOfGang, judgeAtGang, namesBeside, pointsOfBox, stepsFor, wantsDevice } from '../index'
import { branchSettingsSchema } from '../../units'
import { crew, Scenario, testFile, testModel } from '../../testing/scenario'
import { atServer, canTouch, farPositions } from '../../site'

const code = (result: ReturnType<Scenario['submitSite']>) => (result.ok ? null : result.refusal.code)
const touches = (scenario: Scenario, name: string) =>
  canTouch(scenario.site, scenario.box(name).id, crew.ann, atServer(new Date(scenario.now).toISOString(), 120)).yes
function proven(name: string, scenario = new Scenario(), numbers = ['1']): Scenario {
  scenario.openAndTag(numbers)
  scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box(name).id }))
  scenario.conductors(name)
  scenario.prove(name)
  return scenario
}
const merge = (scenario: Scenario, into: string, from: string, who = crew.ann, over = {}) =>
  scenario.submitJob(
    { type: 'mergeBoxes', intoId: scenario.box(into).id, fromId: scenario.box(from).id, reason: 'one box behind two plates' },
    who,
    over,
  )
const split = (scenario: Scenario, name: string, stay = 1, who = crew.ann, over = {}) => {
  const newId = scenario.newId()
  return scenario.submitJob({ type: 'splitBox', boxId: scenario.box(name).id, newId, name: `${name} right`, stay }, who, over)
}

describe('two boxes that are one', () => {
  test('gangs stand behind one another, feeds and switches add up, points and devices move', () => {
    const scenario = new Scenario()
    scenario.must(
      scenario.submitJob({
        type: 'chooseDevice',
        boxId: scenario.box('door').id,
        gang: 1,
        modelId: testModel.id,
        pointIds: [scenario.point('Door light').id],
      }),
    )
    scenario.must(merge(scenario, 'stair', 'door'))
    const stair = scenario.box('stair')
    expect(stair).toMatchObject({ gangs: 3, conductors: [], volumeIn3: null, unknownFeed: false })
    expect(stair.breakerIds).toEqual([scenario.breaker('1').id, scenario.breaker('2').id])
    expect(scenario.point('Door light').controls).toEqual([{ boxId: stair.id, gang: 3 }])
    expect(scenario.job.boxes[stair.id]!.devices[3]).toMatchObject({ model: { id: testModel.id } })
    expect(scenario.job.boxIds).not.toContain(scenario.box('door').id)
    expect(scenario.box('door').retired).toMatchObject({ reason: 'one box behind two plates' })
  })
  test('a reading of the signal at the one is one at the other', () => {
    const scenario = new Scenario()
    const spot = { boxId: scenario.box('door').id, roomId: null, networkId: null, band: '2.4' as const }
    scenario.must(
      scenario.submitSite({ type: 'readSignal', readingId: scenario.newId(), ...spot, dbm: -61, bars: null, roundTripMs: null }),
    )
    scenario.must(merge(scenario, 'stair', 'door'))
    expect(scenario.site.signals).toMatchObject([{ boxId: scenario.box('stair').id, dbm: -61 }])
  })
  test('one whose feed nobody knows makes the whole unknown; shown apart is only what both were shown apart from', () => {
    const scenario = new Scenario()
    scenario.must(merge(scenario, 'door', 'attic'))
    expect(scenario.box('door')).toMatchObject({ unknownFeed: true, ruledOut: {} })
  })
  test('is for the licensed or the office, as things are now, and never with hands, a device, told conductors or another job there', () => {
    const refusals = (prepare: (scenario: Scenario) => void, who = crew.ann, over = {}) => {
      const scenario = new Scenario()
      prepare(scenario)
      return code(merge(scenario, 'stair', 'door', who, over))
    }
    const nothing = () => undefined
    expect(refusals(nothing, crew.ida)).toBe('licenceNeeded')
    expect(refusals(nothing, crew.office)).toBe(null)
    expect(refusals((scenario) => (scenario.heldMs = 120_000))).toBe('onlineOnly')
    expect(refusals((scenario) => scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('door').id })))).toBe('boxOpen')
    expect(refusals(nothing, crew.ann, { elsewhereAt: () => ({ installed: true, otherJobs: 0 }) })).toBe('unitInstalled')
    expect(refusals(nothing, crew.ann, { elsewhereAt: () => ({ installed: false, otherJobs: 1 }) })).toBe('boxInUse')
    expect(
      refusals((scenario) =>
        scenario.must(scenario.submitSite({ type: 'noteBox', boxId: scenario.box('door').id, noted: { kind: 'fixture' } })),
      ),
    ).toBe('noWallBox')
    const wide = new Scenario()
    wide.must(wide.submitSite({ type: 'correctBox', boxId: wide.box('stair').id, gangs: 6 }))
    expect(code(merge(wide, 'stair', 'door'))).toBe('tooManyGangs')
  })
  test('a third box that is switched together with the one is read with the other from then on', () => {
    const scenario = new Scenario()
    scenario.must(scenario.submitSite({ type: 'correctBox', boxId: scenario.box('attic').id, farBoxIds: [scenario.box('door').id] }))
    scenario.must(merge(scenario, 'stair', 'door'))
    expect(scenario.box('attic').farBoxIds).toEqual([scenario.box('stair').id])
    expect(scenario.box('stair').farBoxIds).toEqual([scenario.box('attic').id])
  })
})

describe('one box that is two', () => {
  test('no path is lost: both keep every feed and every far switch, and their conductors are recorded anew', () => {
    const scenario = new Scenario()
    scenario.must(scenario.submitSite({ type: 'correctBox', boxId: scenario.box('stair').id, farBoxIds: [scenario.box('door').id] }))
    scenario.must(split(scenario, 'stair'))
    const [stair, right] = [scenario.box('stair'), scenario.box('stair right')]
    expect([stair.gangs, right.gangs]).toEqual([1, 1])
    expect(right.breakerIds).toEqual(stair.breakerIds)
    expect(scenario.box('door').farBoxIds).toEqual([stair.id, right.id])
    expect(right.farBoxIds).toEqual([scenario.box('door').id])
    expect(scenario.point('Stair light').controls).toEqual([{ boxId: stair.id, gang: 1 }])
    expect(scenario.job.boxIds).toContain(right.id)
    expect(scenario.site.boxOrder.indexOf(right.id)).toBe(scenario.site.boxOrder.indexOf(stair.id) + 1)
  })
  test('a point in the last gang moves along; one that is switched from both ties the two', () => {
    const scenario = new Scenario()
    const stair = scenario.box('stair')
    const point = scenario.point('Stair light')
    const controls = [
      { boxId: stair.id, gang: 1 },
      { boxId: stair.id, gang: 2 },
    ]
    scenario.must(scenario.submitJob({ type: 'recordPoint', point: { ...point, controls } }))
    scenario.must(split(scenario, 'stair'))
    const right = scenario.box('stair right')
    expect(scenario.point('Stair light').controls).toEqual([
      { boxId: stair.id, gang: 1 },
      { boxId: right.id, gang: 1 },
    ])
    expect(farPositions(scenario.box('stair')).length).toBe(2)
    expect(right.farBoxIds).toContain(stair.id)
  })
  test('a name that is taken, nothing left over, an open box: said', () => {
    const scenario = new Scenario()
    expect(code(split(scenario, 'door'))).toBe('noSuchGang')
    expect(code(split(scenario, 'stair', 2))).toBe('noSuchGang')
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('stair').id }))
    expect(code(split(scenario, 'stair'))).toBe('boxOpen')
  })
})

describe('a feed of a panel that is none', () => {
  function withSub(): Scenario {
    const panel = testFile.panels[0]!
    const sub = {
      ...{ key: 'sub', name: 'loft panel', place: '', main: null, otherMains: [], alsoFedFrom: [] },
      fedFrom: { panel: 'panel', breaker: '3' },
      breakers: [{ ...panel.breakers[0]!, number: 'S1' }],
    }
    const loft = { ...testFile.boxes[0]!, key: 'loft', name: 'loft', feeds: [{ panel: 'sub', breaker: 'S1' }] }
    return new Scenario({ ...testFile, panels: [panel, sub], boxes: [...testFile.boxes, loft] })
  }
  const unfeed = (scenario: Scenario, number: string, who = crew.ann) =>
    scenario.submitSite({ type: 'unfeedPanel', breakerId: scenario.breaker(number).id, reason: 'it feeds the oven' }, who)
  test('ends what was proven behind it, isolated by it; after it only the own breaker isolates', () => {
    const scenario = proven('loft', withSub(), ['3'])
    expect(touches(scenario, 'loft')).toBe(true)
    scenario.must(unfeed(scenario, '3', crew.ben))
    expect(touches(scenario, 'loft')).toBe(false)
    expect(Object.values(scenario.site.alarms).map(({ personId }) => personId)).toEqual([crew.ann.personId])
    expect(scenario.breaker('3')).toMatchObject({ role: 'branch', suppliesPanelId: null })
    scenario.openAndTag(['S1'])
    scenario.prove('loft')
    expect(touches(scenario, 'loft')).toBe(true)
  })
  test('is for the licensed, as things are now; a main and a breaker that feeds none are refused', () => {
    const scenario = withSub()
    expect(code(unfeed(scenario, '3', crew.ida))).toBe('licenceNeeded')
    expect(code(unfeed(scenario, '1'))).toBe('feedsNoPanel')
    expect(code(unfeed(scenario, 'main'))).toBe('feedsNoPanel')
    scenario.heldMs = 120_000
    expect(code(unfeed(scenario, '3'))).toBe('onlineOnly')
  })
})

describe('a supply of which no conductor is tied to ground', () => {
  const say = (scenario: Scenario, neutralEarthed: boolean | null, who = crew.ann) =>
    scenario.submitSite({ type: 'describeHome', neutralEarthed }, who)
  test('is outside what this tool proves: living proofs end, none is begun, and a licensed person alone takes it back', () => {
    const scenario = proven('door')
    scenario.must(say(scenario, false, crew.ida))
    expect(touches(scenario, 'door')).toBe(false)
    expect(() => scenario.prove('door')).toThrow(/notCovered/)
    expect(code(say(scenario, null, crew.ida))).toBe('licenceNeeded')
    scenario.must(say(scenario, true))
    scenario.prove('door')
    expect(touches(scenario, 'door')).toBe(true)
  })
  test('only a device that breaks both conductors is chosen there', () => {
    const scenario = new Scenario()
    scenario.must(say(scenario, false))
    const judged = (bothPoles: boolean) =>
      judgeAtGang(scenario.job, scenario.site, scenario.box('door'), 1, { ...testModel, bothPoles }, [scenario.point('Door light')]).filter(
        ({ text }) => /tied to/.test(text),
      )
    expect(judged(false)).toMatchObject([{ severity: 'block' }])
    expect(judged(true)).toMatchObject([{ severity: 'warn' }])
  })
})

describe('a box at a fixture and its point', () => {
  function withFixture() {
    const scenario = new Scenario()
    const boxId = scenario.newId()
    const place = { boxId, roomId: scenario.site.roomOrder[0]!, gangs: 1, breakerIds: [scenario.breaker('1').id], farBoxIds: [] }
    scenario.must(scenario.submitSite({ type: 'recordBox', ...place, kind: 'fixture', name: 'hall ceiling' }))
    scenario.must(scenario.submitJob({ type: 'recordPoint', point: { ...scenario.point('Door light'), fixtureBoxId: boxId } }))
    return scenario
  }
  test('the fixture is read in the positions of its switch; the switch is not read in positions of a lamp', () => {
    const scenario = withFixture()
    expect(scenario.box('hall ceiling').farBoxIds).toEqual([scenario.box('door').id])
    expect(scenario.box('door').farBoxIds).toEqual([])
    expect(scenario.job.boxIds).toContain(scenario.box('hall ceiling').id)
  })
  test('hands at the fixture lose their proof when it turns out what switches it', () => {
    const scenario = new Scenario()
    const boxId = scenario.newId()
    const place = { boxId, roomId: scenario.site.roomOrder[0]!, gangs: 1, breakerIds: [scenario.breaker('1').id], farBoxIds: [] }
    scenario.must(scenario.submitSite({ type: 'recordBox', ...place, kind: 'fixture', name: 'hall ceiling' }))
    proven('hall ceiling', scenario)
    scenario.must(scenario.submitJob({ type: 'recordPoint', point: { ...scenario.point('Door light'), fixtureBoxId: boxId } }, crew.ben))
    expect(touches(scenario, 'hall ceiling')).toBe(false)
  })
  test('what was taken for a fixture and is a switch: the others are read in its positions from then on', () => {
    const scenario = withFixture()
    scenario.must(scenario.submitSite({ type: 'noteBox', boxId: scenario.box('hall ceiling').id, noted: { kind: 'wall' } }))
    expect(scenario.box('door').farBoxIds).toEqual([scenario.box('hall ceiling').id])
  })
  test('a relay goes there and carries the point, from one place though it is switched from two; a device with a plate does not', () => {
    const scenario = withFixture()
    const [fixture, point] = [scenario.box('hall ceiling'), scenario.point('Door light')]
    const relay = { ...testModel, kind: 'relayModule' as const, gangsWide: 0 }
    const give = (model: typeof testModel) =>
      scenario.submitJob({ type: 'chooseDevice', boxId: fixture.id, gang: 1, modelId: model.id, pointIds: [point.id] }, crew.ann, {
        model: () => model,
      })
    expect(code(give(testModel))).toBe('deviceUnfit')
    scenario.must(
      scenario.submitJob({
        type: 'recordPoint',
        point: { ...point, controls: [...point.controls, { boxId: scenario.box('stair').id, gang: 2 }] },
      }),
    )
    scenario.must(give(relay))
    expect(pointsOfBox(scenario.job, fixture.id).map(({ name }) => name)).toEqual(['Door light'])
  })
  test('nobody has to choose a device at a fixture; where one is chosen it has to be put in, and carries the light for the wall', () => {
    const scenario = withFixture()
    const [door, fixture, point] = [scenario.box('door'), scenario.box('hall ceiling'), scenario.point('Door light')]
    const wants = () => [wantsDevice(scenario.job, door.id, 1), wantsDevice(scenario.job, fixture.id, 1)]
    expect(wants()).toEqual([true, false])
    const relay = { ...testModel, kind: 'relayModule' as const, gangsWide: 0 }
    const choice = { type: 'chooseDevice' as const, boxId: fixture.id, gang: 1, modelId: relay.id, pointIds: [point.id] }
    scenario.must(scenario.submitJob(choice, crew.ann, { model: () => relay }))
    expect(wants()).toEqual([false, false])
  })
  test('what the wall box wants done at its fixture is a step of that box', () => {
    const scenario = withFixture()
    const [door, fixture, point] = [scenario.box('door'), scenario.box('hall ceiling'), scenario.point('Door light')]
    const elsewhere = [{ far: null, work: { does: 'fixtureRelay' as const, letter: 'B' } }]
    const plan = {
      devices: [],
      splices: [],
      capped: [],
      kept: [],
      jumpers: [],
      elsewhere: [],
      fixtureRelays: [],
      feeds: [{ letter: 'B', pointId: point.id }],
    }
    scenario.job.boxes[door.id] = {
      ...{ roles: {}, devices: {}, steps: {} },
      wiring: { notes: null, readings: [], plan, observed: [], planned: { seq: 1, personId: 'x', initials: 'AT', against: [], elsewhere } },
    }
    const texts = (boxId: string) => stepsFor(scenario.job, scenario.site, boxId, 1, branchSettingsSchema.parse({})).map(({ text }) => text)
    expect(texts(fixture.id)).toEqual([expect.stringMatching(/^Relay between .*with its neutral/)])
    expect(texts(scenario.box('stair').id)).toEqual([])
  })
  test('its point may be corrected when the box has left the record, or was none at a fixture', () => {
    const scenario = withFixture()
    scenario.must(scenario.submitSite({ type: 'retireBox', boxId: scenario.box('hall ceiling').id, reason: 'listed twice' }))
    const point = scenario.point('Door light')
    scenario.must(scenario.submitJob({ type: 'recordPoint', point: { ...point, load: { ...point.load, lamps: 4 } } }))
    scenario.must(scenario.submitJob({ type: 'recordPoint', point: { ...point, fixtureBoxId: null } }))
    expect(code(scenario.submitJob({ type: 'recordPoint', point }))).toBe('noFixture')
  })
  test('only a box recorded as one at a fixture', () => {
    const scenario = new Scenario()
    const point = { ...scenario.point('Door light'), fixtureBoxId: scenario.box('attic').id }
    expect(code(scenario.submitJob({ type: 'recordPoint', point }))).toBe('noFixture')
  })
})

describe('channels of a device', () => {
  const double = { ...testModel, terminals: [...testModel.terminals, 'load2' as const], maxWatts: { ...testModel.maxWatts, led: 30 } }
  test('two points of 27 and 21 W fit a device of 30 W a channel; three do not say which', () => {
    const scenario = new Scenario()
    const [door, stair] = [scenario.point('Door light'), scenario.point('Stair light')]
    expect(channelsOfGang(scenario.job, scenario.box('stair').id, 1, double, [door, stair]).map((one) => one.length)).toEqual([1, 1])
    expect(channelsOfGang(scenario.job, scenario.box('stair').id, 1, testModel, [door, stair]).map((one) => one.length)).toEqual([2])
    expect(channelsOfGang(scenario.job, scenario.box('stair').id, 1, double, [door, stair, door])).toEqual([])
  })
  test('each has its own name, which must not sound like another', () => {
    const scenario = new Scenario()
    const [stair, light] = [scenario.box('stair'), scenario.point('Stair light')]
    const second = { ...light, id: scenario.newId(), name: 'Landing light', controls: [{ boxId: stair.id, gang: 1 }] }
    scenario.must(scenario.submitJob({ type: 'recordPoint', point: second }))
    const over = { model: () => double }
    const pointIds = [light.id, second.id]
    scenario.must(scenario.submitJob({ type: 'chooseDevice', boxId: stair.id, gang: 1, modelId: double.id, pointIds }, crew.ann, over))
    const unitId = scenario.newId()
    scenario.job.units[unitId] = {
      ...{ id: unitId, boxId: stair.id, gang: 1, model: double, serial: 'S-1', installedAt: '', removedAt: null, removedTo: null },
      code: { kind: 'none', sealed: null, ending: '', checked: 'none' },
      ...{ name: '', channelNames: {}, namedBy: null, nameSeq: 0, otherNames: [], pairing: null },
    }
    const name = (called: string, pointId: string | null) =>
      scenario.submitJob({ type: 'nameUnit', unitId, name: called, pointId, despiteClash: false })
    scenario.must(name('stair pair', null))
    scenario.must(name('stair light', light.id))
    expect(code(name('Stair light', second.id))).toBe('nameClash')
    scenario.must(name('landing lamp', second.id))
    const unit = scenario.job.units[unitId]!
    expect(unit).toMatchObject({ name: 'stair pair', channelNames: { [light.id]: 'stair light', [second.id]: 'landing lamp' } })
    expect(namesBeside(scenario.job, unit, light.id)).toEqual(['stair pair', 'landing lamp'])
    expect(code(name('x lamp', scenario.point('Door light').id))).toBe('noSuchPoint')
  })
})
