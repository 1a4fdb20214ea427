import { fixtureRelay, terminalModel } from '../terminal-model'
import { practiceBoxes } from '../practice'
import { readToTheEnd } from '../practice/read-to-the-end'
import { placeJumper, keepOldSwitch } from './edit'
import { knownCables, homeOf, proposePlan, type WiringPlan } from './plan'
import { verify } from './verify'

const options = { order: 'groundNeutralLoadLine' as const, metric: true, gauge: '1.5 mm²' }
/** A practice box with its roles known, and what is said of its plan after a change. */
function known(id: string) {
  const box = practiceBoxes.find((one) => one.id === id)!
  const cables = knownCables(box.found, readToTheEnd(box, 3).findings)!
  const plan = proposePlan(box.found, cables, box.devices, box)
  const judge = (change: (copy: WiringPlan) => unknown = () => undefined, devices = box.devices) => {
    const copy = structuredClone(plan)
    const changed = (change(copy) as WiringPlan | undefined) ?? copy
    return verify(box.found, cables, changed, homeOf(box.found, cables, changed, devices, box.loads), options)
  }
  const codes = (...args: Parameters<typeof judge>) => judge(...args).verdicts.map((verdict) => verdict.code)
  return { box, plan, judge, codes }
}

describe('module behind old switches: they become inputs (common practice, no source)', () => {
  const { plan, judge, codes } = known('weaving-room')
  test('both switches are heard in every state; the fan is on the fan’s terminal', () => {
    expect(codes().filter((code) => code === 'heard')).toHaveLength(2)
    expect(plan.devices[0]!.terminals).toMatchObject({ fan: ['D'], load: ['E'] })
    expect(judge().states).toBe(16)
    // Switches that are only heard get no rows of their own: two channels are four rows.
    expect(judge().table).toHaveLength(4)
  })
  test('fan and lamp exchanged: said of both', () =>
    expect(
      codes((copy) => {
        copy.devices[0]!.terminals = { ...copy.devices[0]!.terminals, fan: ['E'], load: ['D'] }
      }).filter((code) => code === 'wrongChannel'),
    ).toHaveLength(2))
  test('an old switch without its feed is heard by nobody', () => {
    const verdicts = judge((copy) => placeJumper(copy, 'A', 'old1:a')).verdicts
    expect(verdicts.map((verdict) => verdict.text)).toContain('Old switch 1 does nothing: no input sees it.')
  })
  test('an old switch fed from the switched side is heard only while its channel is on', () =>
    expect(codes((copy) => placeJumper(placeJumper(copy, 'A', 'old1:a'), 'D', 'old1:a'))).toContain('notHeard'))
  test('an old switch that goes takes its jumpers with it', () => expect(keepOldSwitch(plan, 1, false).jumpers).toHaveLength(2))
  test('more than a channel carries', () => {
    const small = { ...known('weaving-room').box.devices[0]! }
    small.model = { ...small.model, channelAmps: 0.4 }
    expect(codes(undefined, [small]).filter((code) => code === 'overChannel')).toHaveLength(2)
  })
  test('jumpers are cut too', () => expect(judge().pigtails).toHaveLength(6))
})

describe('one sensed traveler (line and load at one box, a plain switch at the other: common practice, no source)', () => {
  const { plan, judge, codes } = known('quay-stairs')
  test('line comes from the other box over one traveler, the other one is heard', () => {
    expect(plan.devices[0]!.terminals).toMatchObject({ line: ['B'], load: ['E'], sense: ['C'] })
    expect(codes()).toContain('heard')
    expect(judge().elsewhere[0]).toBe('Other location: take the common off and splice it with B.')
  })
  test('the other 3-way left as it was: the device loses its power in half of the positions', () =>
    expect(judge((copy) => void (copy.elsewhere = [])).verdicts.map((verdict) => verdict.text)).toContain(
      'The device loses its power in 2 of 4 positions.',
    ))
  test('a single sensed-traveler terminal is not interchangeable with line (common practice, no source)', () =>
    expect(
      codes((copy) => {
        copy.devices[0]!.terminals = { ...copy.devices[0]!.terminals, line: ['C'], sense: ['B'] }
      }),
    ).toContain('noPower'))
})

describe('the older 3-way, line and neutral on one switch (wiring theory; that older non-standard 3-ways exist: common practice, no source)', () => {
  const { box, plan, judge, codes } = known('cellar-stairs')
  test('the light’s return goes through, the line there is capped at both ends', () => {
    expect(plan.elsewhere).toEqual([{ far: 0, becomes: 'through', through: 'E', sense: null, neutral: 'E' }])
    expect(codes()).toContain('locationLost')
    expect(plan.splices).not.toContainEqual({ letters: ['A', 'D'], holds: null })
    expect(judge().elsewhere).toEqual([
      expect.stringContaining('licensed lead'),
      'Other location: take the common off and splice it with E.',
      'Other location: no switch in the wiring; a companion without wires may cover it.',
      'Other location: cap D at both ends.',
    ])
    expect(codes()).toContain('works')
  })
  test('left as it was: nothing new is built on it', () =>
    expect(codes((copy) => void (copy.elsewhere[0]!.becomes = 'asItWas'))).toContain('olderWay'))
  test('a wired companion speaks over the line that is free', () => {
    const model = terminalModel({ kind: 'switch', terminals: ['ground', 'neutral', 'load', 'line', 'sense'], multiWay: 'companion' })
    const devices = [{ ...box.devices[0]!, model }]
    const cables = knownCables(box.found, readToTheEnd(box, 3).findings)!
    const laid = proposePlan(box.found, cables, devices, { ...box, otherLocation: 'companion' })
    expect(laid.elsewhere[0]).toMatchObject({ becomes: 'companion', through: 'E', sense: 'D', neutral: 'E' })
    const said = verify(box.found, cables, laid, homeOf(box.found, cables, laid, devices, box.loads), options)
    expect(said.verdicts.map((one) => one.code)).toEqual(expect.arrayContaining(['heard', 'works']))
    expect(said.verdicts.filter((one) => one.severity === 'block')).toEqual([])
  })
})

describe('a wired companion', () => {
  const { codes } = known('back-stairs')
  test('hears over one conductor, with a neutral there', () => expect(codes()).toContain('heard'))
  test('no neutral at the other location', () => expect(codes((copy) => void (copy.elsewhere[0]!.neutral = null))).toContain('noPower'))
  test('on another conductor than the device listens on', () =>
    expect(codes((copy) => void (copy.elsewhere[0]!.sense = 'D'))).toContain('notHeard'))
  test('the companion’s own box: a conductor to its partner and a neutral', () => {
    const companion = terminalModel({ kind: 'companion', terminals: ['ground', 'neutral', 'sense'], multiWay: 'companion' })
    const { box } = known('quay-stairs')
    const devices = [{ gang: 1, name: 'Tide companion', model: companion }]
    const cables = knownCables(box.found, readToTheEnd(box, 3).findings)!
    const plan = proposePlan(box.found, cables, devices, box)
    expect(plan.elsewhere[0]!.becomes).toBe('partner')
    const said = (laid: WiringPlan) =>
      verify(box.found, cables, laid, homeOf(box.found, cables, laid, devices, box.loads), options).verdicts.map((one) => one.code)
    expect(said(plan)).toContain('heard')
    const bare = structuredClone(plan)
    bare.devices[0]!.terminals.neutral = []
    expect(said(bare)).toContain('noPower')
  })
})

describe('sender and relay at the fixture (the fixture stays live when “off”: common practice, no source)', () => {
  const { plan, codes } = known('chart-room')
  test('line and loads are one for good, each relay answers to one switch, and the fixture is said to stay live', () => {
    expect(plan.splices).toContainEqual({ letters: ['A', 'B', 'C'], holds: null })
    expect(plan.fixtureRelays.map((relay) => relay.input)).toEqual(['sense', 'sense2'])
    expect(codes().filter((code) => code === 'staysLive')).toHaveLength(2)
  })
  test('mains on a dry input', () => expect(codes((copy) => placeJumper(copy, 'A', 'gang1:sense'))).toContain('dryInputLive'))
  test('a relay that is not fed', () =>
    expect(codes((copy) => void (copy.splices = [{ letters: ['A', 'B'], holds: null }]))).toContain('noPower'))
  test('two relays on one input: the second switch moves nothing', () =>
    expect(codes((copy) => void (copy.fixtureRelays[1]!.input = 'sense3' as never))).toContain('notHeard'))
})

test('a metering relay predicts what its meter shows', () => {
  const { judge } = known('pump-house')
  expect(judge().table.map((row) => row.metered)).toEqual([[{ gang: 1, watts: 0 }], [{ gang: 1, watts: 120 }]])
})

describe('exchanging line and load is a property of the model (common practice, no source)', () => {
  const { box, codes } = known('print-shop-door')
  const exchange = (copy: WiringPlan) => {
    const { line, load } = copy.devices[0]!.terminals
    copy.devices[0]!.terminals = { line: load!, load: line! }
  }
  test.each([
    [false, true],
    [true, false],
  ])('interchangeable %s: refused %s', (leadsInterchangeable, refused) => {
    const model = terminalModel({ kind: 'switch', multiWay: 'single', terminals: ['line', 'load'], leadsInterchangeable })
    expect(codes(exchange, [{ ...box.devices[0]!, model }]).includes('lineLoadSwapped')).toBe(refused)
  })
})

test('two gangs without neutral on one device, each channel fed through its own lamp', () => {
  const { box } = known('boathouse-door')
  const model = terminalModel({ kind: 'switch', multiWay: 'single', terminals: ['line', 'load', 'load2'] })
  expect(model).toMatchObject({ channels: 2, throughLoad: { to: ['load', 'load2'] } })
  const devices = [{ gang: 1, name: 'Double switch, no neutral', model }]
  const cables = knownCables(box.found, readToTheEnd(box, 3).findings)!
  const whole = { ...box.found, oldSwitches: [{ contacts: 'other' as const, terminals: { a: ['A'], b: ['B'], c: ['C'] } }] }
  const plan = proposePlan(whole, cables, devices, box)
  expect(plan.devices[0]!.terminals).toMatchObject({ line: ['A'], load: ['B'], load2: ['C'] })
  const { verdicts, table } = verify(whole, cables, plan, homeOf(whole, cables, plan, devices, box.loads), options)
  expect(verdicts.filter((verdict) => verdict.code === 'works')).toHaveLength(2)
  expect(table).toHaveLength(4)
})
test('a relay at the fixture has line, neutral and load', () => expect(fixtureRelay.terminals).toEqual(['line', 'neutral', 'load']))
