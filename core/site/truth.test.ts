import { crew, Scenario, testFile } from '../testing/scenario'
import type { JobFile } from '../format'
import type { Actor } from '../stream'
import {
  atServer,
  againstPermit,
  boxesInDoubt,
  breakerName,
  canClose,
  canTouch,
  isSettled,
  notYetClear,
  pairStatuses,
  relyingOn,
  type SiteCommand,
} from './index'

/** Cases in which somebody who obeyed an earlier program would have been hurt, told something untrue, or stuck. */
const vantage = (scenario: Scenario, later = 0) => atServer(new Date(scenario.now + later * 60_000).toISOString(), 120)
const code = (answer: { yes: boolean } & Partial<{ code: string }>) => (answer.yes ? 'yes' : answer.code)
const refused = (result: ReturnType<Scenario['submitSite']>) => (result.ok ? 'accepted' : result.refusal.code)
const touch = (scenario: Scenario, box: string, who: Actor = crew.ann, later = 0) =>
  code(canTouch(scenario.site, scenario.box(box).id, who, vantage(scenario, later)))
const alarmed = (scenario: Scenario) => [...new Set(Object.values(scenario.site.alarms).map((alarm) => alarm.initials))].sort()
const light = (scenario: Scenario, box: string, over: object = {}, who: Actor = crew.ben) =>
  scenario.must(
    scenario.submitSite({ type: 'observeLive', boxId: scenario.box(box).id, what: 'meter', volts: 118, impedance: 'low', ...over }, who),
  )
const lever = (scenario: Scenario, number: string, state: 'open' | 'closed' | 'tripped', how: 'did' | 'found', who: Actor = crew.ben) =>
  scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker(number).id, state, how }, who))
const tag = (scenario: Scenario, number: string, who: Actor) =>
  scenario.must(
    scenario.submitSite(
      { type: 'hangTag', tagId: scenario.newId(), breakerId: scenario.breaker(number).id, lock: `${who.initials} blue ${number}` },
      who,
    ),
  )
const close = (scenario: Scenario, number: string, who: Actor = crew.ben) =>
  scenario.submitSite({ type: 'requestClose', grantId: scenario.newId(), breakerId: scenario.breaker(number).id }, who)
const cause = (scenario: Scenario, signSeq: number, what: Extract<SiteCommand, { type: 'recordCause' }>['cause'], who: Actor = crew.ben) =>
  scenario.submitSite({ type: 'recordCause', signSeq, cause: what }, who)

/** A second box on breaker 2 beside "door" on 1. */
const file: JobFile = {
  ...testFile,
  boxes: [...testFile.boxes, { ...testFile.boxes[0]!, key: 'porch', name: 'porch', feeds: [{ panel: 'panel', breaker: '2' }] }],
}
/** Door and porch, each proven by Ann at the points given. */
function both(numbers: string[], from: JobFile = file): Scenario {
  const scenario = new Scenario(from)
  scenario.openAndTag(numbers)
  for (const box of ['door', 'porch']) {
    scenario.conductors(box)
    scenario.prove(box)
  }
  return scenario
}
function one(): Scenario {
  const scenario = new Scenario(file)
  scenario.openAndTag(['1'])
  scenario.conductors('door')
  scenario.prove('door')
  return scenario
}

describe('what voltage at one box reaches', () => {
  test('every box whose isolation rests on the same open point: the main', () => {
    const scenario = both(['main'])
    expect(touch(scenario, 'porch')).toBe('yes')
    light(scenario, 'door')
    expect(touch(scenario, 'porch')).toBe('alarmOpen')
    expect(alarmed(scenario)).toEqual(['AT'])
  })
  test('a feeder', () => {
    const scenario = new Scenario({
      ...file,
      panels: [
        ...file.panels,
        {
          key: 'sub',
          name: 'loft panel',
          place: 'loft',
          main: null,
          otherMains: [],
          fedFrom: { panel: 'panel', breaker: '3' },
          alsoFedFrom: [],
          breakers: ['S1', 'S2'].map((number) => ({
            number,
            poles: 1,
            amps: 15,
            label: '',
            state: 'closed' as const,
            offLimits: null,
            protection: 'unknown' as const,
          })),
        },
      ],
      boxes: [
        ...file.boxes,
        { ...file.boxes[0]!, key: 'loft', name: 'loft', feeds: [{ panel: 'sub', breaker: 'S1' }] },
        { ...file.boxes[0]!, key: 'nook', name: 'nook', feeds: [{ panel: 'sub', breaker: 'S2' }] },
      ],
    })
    scenario.openAndTag(['3'])
    for (const box of ['loft', 'nook']) {
      scenario.conductors(box)
      scenario.prove(box)
    }
    light(scenario, 'loft')
    expect(touch(scenario, 'nook')).toBe('alarmOpen')
  })
  test('an unknown feed reaches everything; so does what was not shown apart', () => {
    const unknown = both(['1', '2', 'main'])
    expect(boxesInDoubt(unknown.site, unknown.box('attic')).map((box) => box.name)).toContain('porch')
    // 1 was off while the porch was read: nobody knows whether it feeds the porch too.
    const scenario = both(['1', '2'])
    expect(boxesInDoubt(scenario.site, scenario.box('door')).map((box) => box.name)).toContain('porch')
    light(scenario, 'door')
    expect(touch(scenario, 'porch')).toBe('alarmOpen')
  })
  test('not a box that was read dead while the feed of the other carried power', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['2'])
    scenario.conductors('porch')
    scenario.prove('porch')
    scenario.now += 60 * 60_000
    scenario.openAndTag(['1'], crew.ben)
    scenario.conductors('door', 'ABC', crew.ben)
    scenario.prove('door', crew.ben)
    light(scenario, 'door', {}, crew.lead)
    expect([touch(scenario, 'porch'), touch(scenario, 'door', crew.ben)]).toEqual(['yes', 'alarmOpen'])
  })
  test('whoever opened a box there is alarmed too, proof or not', () => {
    const scenario = one()
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('stair').id }, crew.ben))
    lever(scenario, '1', 'closed', 'found', crew.lead)
    expect(alarmed(scenario)).toEqual(['AT', 'BT'])
  })
  test('a sounding non-contact tester stops its own box and no other', () => {
    const scenario = both(['main'])
    light(scenario, 'door', { what: 'tester', volts: null, impedance: null })
    expect([touch(scenario, 'door'), touch(scenario, 'porch')]).toEqual(['alarmOpen', 'yes'])
  })
})

describe('the reference', () => {
  const proof = (instrument = 'good') => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const proofId = scenario.startProof('door', crew.ann, instrument)
    return { scenario, proofId }
  }
  const at = (scenario: Scenario, lineToNeutral: number, referenceToLine: number, referenceToNeutral: number, number = '2') => ({
    kind: 'livePoint' as const,
    breakerId: scenario.breaker(number).id,
    name: 'socket',
    lineToNeutral,
    referenceToLine,
    referenceToNeutral,
  })
  test.each([
    ['good', 120, 119, 0.6, 'accepted'],
    ['a floating ground, 58 V to the line', 120, 58, 40, 'referenceNotGood'],
    ['anything from 51 to 400 V', 120, 240, 0, 'referenceNotGood'],
    ['a reversed ground: the band to the neutral', 120, 0, 120, 'referenceNotGood'],
    ['no source at all', 3, 3, 0, 'referenceNotGood'],
    ['10 V to the neutral', 120, 118, 10, 'referenceNotGood'],
    ['a weak supply that agrees within ± 10 %', 100, 96, 3, 'accepted'],
  ])('at a live point: %s (common practice, no source)', (_, line, toLine, toNeutral, expected) => {
    const { scenario, proofId } = proof()
    expect(refused(scenario.seeReference(proofId, crew.ann, { letter: 'C', seen: at(scenario, line, toLine, toNeutral) }))).toBe(expected)
  })
  test('no live point behind an open breaker; none at all with the main open; never by high impedance alone', () => {
    const { scenario, proofId } = proof()
    expect(refused(scenario.seeReference(proofId, crew.ann, { letter: 'C', seen: at(scenario, 120, 120, 0, '1') }))).toBe('pointNotLive')
    const off = proof()
    lever(off.scenario, 'main', 'open', 'did')
    expect(refused(off.scenario.seeReference(off.proofId, crew.ann, { letter: 'C', seen: at(off.scenario, 120, 120, 0) }))).toBe(
      'pointNotLive',
    )
    const high = proof('highOnly')
    expect(refused(high.scenario.seeReference(high.proofId, crew.ann, { letter: 'C', seen: at(high.scenario, 120, 119, 0) }))).toBe(
      'wrongMeter',
    )
  })
  test('by continuity, the leads taken away', () => {
    const { scenario, proofId } = proof()
    const seen = (ohms: number, leadOhms: number) =>
      scenario.seeReference(proofId, crew.ann, { letter: 'C', seen: { kind: 'continuity', ohms, leadOhms } })
    expect([refused(seen(400, 0.4)), refused(seen(2.6, 0.4)), refused(seen(1.2, 0.4))]).toEqual([
      'referenceNotGood',
      'referenceNotGood',
      'accepted',
    ])
  })
  test('another one ends what was read against the first', () => {
    const { scenario, proofId } = proof()
    const read = () => scenario.must(scenario.submitSite({ type: 'takeReading', proofId, a: 'A', b: 'REF', impedance: 'low', volts: 0 }))
    read()
    scenario.must(scenario.seeReference(proofId, crew.ann, { letter: 'C' }))
    expect(scenario.site.proofs[proofId]!.readings).toEqual([])
    read()
    expect(refused(scenario.seeReference(proofId, crew.ann, { again: true }))).toBe('otherReference')
  })
  test('two earths: each conductor against both, and every pair', () => {
    const { scenario, proofId } = proof()
    scenario.must(
      scenario.seeReference(proofId, crew.ann, { letter: 'C', seen: { kind: 'twoEarths', second: 'water pipe', ohms: 0.4, leadOhms: 0 } }),
    )
    const pairs = pairStatuses(scenario.site, scenario.box('door'), scenario.site.proofs[proofId]!)
    expect(pairs.map(({ a, b }) => `${a}${b}`)).toEqual(['AREF', 'BREF', 'AREF2', 'BREF2', 'AB'])
  })
  test('a conductor that is the lead’s letter is not left out', () => {
    const { scenario, proofId } = proof()
    const seen = { kind: 'continuity' as const, ohms: 0.4, leadOhms: 0.3 }
    expect(refused(scenario.submitSite({ type: 'seeReference', proofId, reference: 'wanderLead', letter: 'A', seen, again: false }))).toBe(
      'referenceUnclear',
    )
  })
})

describe('instruments', () => {
  test('a meter without low impedance clears nothing; a non-contact tester proves nothing; a detector without indication does', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const highId = scenario.startProof('door', crew.ann, 'highOnly')
    const read = (proofId: string, impedance: 'high' | 'steps', volts: number) =>
      scenario.submitSite({ type: 'takeReading', proofId, a: 'A', b: 'REF', impedance, volts })
    scenario.must(read(highId, 'high', 14))
    scenario.must(read(highId, 'high', 0.4))
    expect(pairStatuses(scenario.site, scenario.box('door'), scenario.site.proofs[highId]!)[0]!.status).toBe('repeatLow')
    expect(() => scenario.startProof('door', crew.ann, 'pen')).toThrow('screenOnly')
    const proofId = scenario.startProof('door', crew.ann, 'detector')
    scenario.readAll(proofId, crew.ann, 'steps')
    scenario.must(scenario.submitSite({ type: 'finishProof', proofId, volts: 240 }))
    expect(touch(scenario, 'door')).toBe('yes')
    scenario.instruments.detector!.lowestStepVolts = 50
    expect(() => scenario.startProof('door', crew.ann, 'detector')).toThrow('stepTooHigh')
  })
  test('a step that lights is not dead', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const proofId = scenario.startProof('door', crew.ann, 'detector')
    scenario.must(scenario.submitSite({ type: 'takeReading', proofId, a: 'A', b: 'REF', impedance: 'steps', volts: 12 }))
    expect(scenario.site.proofs[proofId]!.status).toBe('void')
  })
  const recheck = (scenario: Scenario, proofId: string, volts: number, name = 'second unit') =>
    scenario.submitSite({ type: 'recheckTester', proofId, source: { kind: 'provingUnit', name }, volts })
  test('the second check is within ± 10 % of the first, or another source decides between tester and source', () => {
    const begin = (volts: number) => {
      const scenario = one()
      scenario.conductors('stair')
      scenario.openAndTag(['2'])
      const proofId = scenario.startProof('stair')
      scenario.readAll(proofId)
      scenario.must(scenario.submitSite({ type: 'finishProof', proofId, volts }))
      return { scenario, proofId }
    }
    expect(begin(217).scenario.site.proofs[begin(217).proofId]!.status).toBe('living')
    const source = begin(51)
    expect(source.scenario.site.proofs[source.proofId]!.status).toBe('open')
    expect(refused(recheck(source.scenario, source.proofId, 240, 'unit'))).toBe('sameSource')
    source.scenario.must(recheck(source.scenario, source.proofId, 240))
    expect(source.scenario.site.proofs[source.proofId]!.status).toBe('void')
    // The source had failed: what was read with the tester elsewhere stands, and it goes on.
    expect(touch(source.scenario, 'door')).toBe('yes')
    source.scenario.startProof('stair')
    const tester = begin(51)
    tester.scenario.must(recheck(tester.scenario, tester.proofId, 20))
    expect(() => tester.scenario.startProof('stair')).toThrow('testerFailed')
  })
  test('a tester that fails takes with it what was read since it was last seen good, finished or not', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1', '2'])
    scenario.conductors('door')
    scenario.conductors('porch')
    const doorId = scenario.startProof('door')
    const porchId = scenario.startProof('porch')
    scenario.readAll(porchId)
    scenario.must(scenario.submitSite({ type: 'finishProof', proofId: porchId, volts: 0 }))
    scenario.must(recheck(scenario, porchId, 0))
    expect(scenario.site.proofs[doorId]!.status).toBe('void')
    // Back in service once a lead recorded what was done and it proved good on two sources.
    scenario.instruments.good!.provedGoodAt = new Date(scenario.now + 60_000).toISOString()
    expect(scenario.startProof('door')).toBeTruthy()
    const elsewhere = one()
    elsewhere.must(elsewhere.submitSite({ type: 'noteInstrumentFailed', instrumentId: 'good', name: 'tester', why: '' }, crew.lead))
    expect([touch(elsewhere, 'door'), alarmed(elsewhere)]).toEqual(['alarmOpen', ['AT']])
  })
  test('a source that was switched off meanwhile shows nothing of the tester', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const proofId = scenario.newId()
    scenario.must(
      scenario.submitSite({
        type: 'startProof',
        proofId,
        boxId: scenario.box('door').id,
        instrumentId: 'good',
        source: { kind: 'breaker', breakerId: scenario.breaker('2').id, name: 'socket' },
        volts: 120,
      }),
    )
    scenario.must(scenario.seeReference(proofId))
    scenario.readAll(proofId)
    lever(scenario, '2', 'open', 'did')
    scenario.must(scenario.submitSite({ type: 'finishProof', proofId, volts: 120 }))
    expect(scenario.site.proofs[proofId]).toMatchObject({ status: 'open', recheckVolts: 120 })
  })
})

describe('a high-impedance reading from 50 V', () => {
  function doubt() {
    const scenario = both(['main'])
    tag(scenario, 'main', crew.ben)
    scenario.conductors('stair', 'ABC', crew.ben)
    const proofId = scenario.startProof('stair', crew.ben)
    const read = (impedance: 'high' | 'low', volts: number, a = 'A') =>
      scenario.must(scenario.submitSite({ type: 'takeReading', proofId, a, b: 'REF', impedance, volts }, crew.ben))
    read('high', 118)
    return { scenario, read }
  }
  test('holds every proof it could concern: hands out, nothing closes', () => {
    const { scenario } = doubt()
    expect([touch(scenario, 'door'), touch(scenario, 'porch'), alarmed(scenario)]).toEqual(['alarmOpen', 'alarmOpen', ['AT']])
    scenario.must(scenario.submitSite({ type: 'confirmStopped' }))
    expect(touch(scenario, 'door')).toBe('inSuspense')
    expect(canClose(scenario.site, scenario.breaker('main').id, crew.ben)).toMatchObject({
      reasons: expect.arrayContaining([expect.stringContaining('waits for its low-impedance reading')]),
    })
  })
  test('dead by low impedance in time: nothing had happened, nobody has to answer', () => {
    const { scenario, read } = doubt()
    read('low', 0.2)
    expect([touch(scenario, 'door'), touch(scenario, 'porch'), alarmed(scenario)]).toEqual(['yes', 'yes', []])
    // It floats: the same conductor alarms nobody any more.
    read('high', 96)
    expect(touch(scenario, 'door')).toBe('yes')
  })
  test('too late: they prove again', () => {
    const { scenario, read } = doubt()
    scenario.now += 11 * 60_000
    read('low', 0.2)
    scenario.must(scenario.submitSite({ type: 'confirmStopped' }))
    expect(touch(scenario, 'door')).toBe('notProven')
  })
  test('live by low impedance: all of them end', () => {
    const { scenario, read } = doubt()
    read('low', 118)
    expect(relyingOn(Object.values(scenario.site.proofs).filter((proof) => proof.status !== 'void'))).toEqual([])
  })
})

describe('a cause comes before another proof', () => {
  const again = (scenario: Scenario) =>
    scenario.submitSite({
      type: 'startProof',
      proofId: scenario.newId(),
      boxId: scenario.box('door').id,
      instrumentId: 'good',
      source: { kind: 'provingUnit', name: 'unit' },
      volts: 240,
    })
  test('the lever had been moved: somebody has to have found it so', () => {
    const scenario = one()
    const [sign] = light(scenario, 'door')
    scenario.must(scenario.submitSite({ type: 'confirmStopped' }))
    expect(refused(again(scenario))).toBe('causeMissing')
    const moved = () => cause(scenario, sign!.seq, { kind: 'leverMoved', breakerId: scenario.breaker('1').id })
    expect(refused(moved())).toBe('notMoved')
    lever(scenario, '1', 'closed', 'found')
    lever(scenario, '1', 'open', 'did')
    scenario.must(moved())
    const [own] = Object.values(scenario.site.tags)
    expect(refused(again(scenario))).toBe('notIsolated')
    scenario.must(scenario.submitSite({ type: 'rehangTag', tagId: own!.id, cause: 'customer had closed it' }))
    expect(refused(again(scenario))).toBe('accepted')
  })
  test('a second feed: on record and open', () => {
    const scenario = one()
    const [sign] = light(scenario, 'door')
    const second = () => cause(scenario, sign!.seq, { kind: 'secondFeed', breakerId: scenario.breaker('3').id })
    expect(refused(second())).toBe('notOpen')
    lever(scenario, '3', 'open', 'did')
    expect(refused(second())).toBe('notAFeed')
    const breakerIds = [scenario.breaker('1').id, scenario.breaker('3').id]
    scenario.must(
      scenario.submitSite({ type: 'setFeeds', boxId: scenario.box('door').id, breakerIds, unknownFeed: false, basis: 'went dark' }),
    )
    scenario.must(second())
  })
  test('unknown: the main and all other sources from now on; an apprentice may say that and no more', () => {
    const scenario = one()
    const [sign] = light(scenario, 'door')
    expect(refused(cause(scenario, sign!.seq, { kind: 'timer', note: 'some timer' }, crew.ida))).toBe('licenceNeeded')
    scenario.must(cause(scenario, sign!.seq, { kind: 'unknown' }, crew.ida))
    expect(scenario.box('door').unknownFeed).toBe(true)
    scenario.submitSite({ type: 'confirmStopped' })
    expect(touch(scenario, 'door')).toBe('notIsolated')
  })
  test('mistyped: only the same person with the same instrument, dead by low impedance', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const proofId = scenario.startProof('door')
    const [sign] = scenario.must(scenario.submitSite({ type: 'takeReading', proofId, a: 'A', b: 'REF', impedance: 'low', volts: 118 }))
    const mistyped = (volts: number, instrumentId = 'good', who: Actor = crew.ann) =>
      cause(scenario, sign!.seq, { kind: 'mistyped', again: { volts, impedance: 'low', instrumentId } }, who)
    expect([
      refused(mistyped(117)),
      refused(mistyped(0, 'detector')),
      refused(mistyped(0, 'good', crew.ben)),
      refused(mistyped(0)),
    ]).toEqual(['stillLive', 'notYours', 'notYours', 'accepted'])
  })
  test('where the record expects voltage, nobody is asked', () => {
    const scenario = new Scenario(file)
    light(scenario, 'door')
    expect(scenario.site.signs).toEqual({})
  })
})

describe('a shifted neutral (4 V between the neutral of a loaded feeder and earth)', () => {
  function shifted() {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const proofId = scenario.newId()
    const source = { kind: 'provingUnit' as const, name: 'unit' }
    scenario.must(
      scenario.submitSite({ type: 'startProof', proofId, boxId: scenario.box('door').id, instrumentId: 'good', source, volts: 240 }),
    )
    const seen = {
      kind: 'livePoint' as const,
      breakerId: scenario.breaker('2').id,
      name: 'socket',
      lineToNeutral: 120,
      referenceToLine: 116,
      referenceToNeutral: 4,
    }
    scenario.must(scenario.seeReference(proofId, crew.ann, { seen }))
    const read = (a: string, b: string, volts: number, neutral: { toReference: number; toConductor: number } | null = null) =>
      scenario.must(scenario.submitSite({ type: 'takeReading', proofId, a, b, impedance: 'low', volts, neutral }))
    return { scenario, proofId, read, seen }
  }
  test('is told by the live point’s neutral; it may be worked beside, never parted', () => {
    const { scenario, proofId, read, seen } = shifted()
    read('A', 'REF', 0.1)
    read('B', 'REF', 4.2, { toReference: 4, toConductor: 0.1 })
    read('C', 'REF', 0.1)
    read('A', 'B', 0.2)
    read('C', 'B', 4.1)
    expect(pairStatuses(scenario.site, scenario.box('door'), scenario.site.proofs[proofId]!).every(isSettled)).toBe(true)
    scenario.must(scenario.seeReference(proofId, crew.ann, { seen, again: true }))
    scenario.must(scenario.submitSite({ type: 'finishProof', proofId, volts: 240 }))
    expect(touch(scenario, 'door')).toBe('yes')
    expect(
      refused(
        scenario.submitSite({
          type: 'openNeutral',
          partId: scenario.newId(),
          boxId: scenario.box('door').id,
          what: 'whites',
          basis: { kind: 'clamp', amps: 0, loadsOn: true },
        }),
      ),
    ).toBe('neutralShifted')
  })
  test.each([
    ['voltage against that neutral', 4.2, { toReference: 4, toConductor: 3 }],
    ['something else than was read there', 9, { toReference: 4, toConductor: 0 }],
    ['more than 10 V', 12, { toReference: 12, toConductor: 0 }],
    ['nobody looked', 4.2, null],
  ])('is not: %s', (_, volts, neutral) => {
    const { scenario, proofId, read } = shifted()
    read('B', 'REF', volts, neutral)
    expect(scenario.site.proofs[proofId]!.status).toBe('void')
  })
})

describe('tags', () => {
  test('found closed under it: the tag counts again only when its owner says so, with the cause', () => {
    const scenario = one()
    lever(scenario, '1', 'closed', 'found')
    lever(scenario, '1', 'open', 'did')
    scenario.must(scenario.submitSite({ type: 'confirmStopped' }))
    expect(touch(scenario, 'door')).toBe('notIsolated')
    const [own] = Object.values(scenario.site.tags)
    expect(refused(scenario.submitSite({ type: 'rehangTag', tagId: own!.id }))).toBe('causeMissing')
    scenario.must(scenario.submitSite({ type: 'rehangTag', tagId: own!.id, cause: 'the customer wanted light' }))
    expect(touch(scenario, 'door')).toBe('notProven')
  })
  test('hung before the point was found closed: refused', () => {
    const scenario = new Scenario(file)
    lever(scenario, '1', 'open', 'did')
    const early = scenario.site.seq
    lever(scenario, '1', 'closed', 'found', crew.lead)
    lever(scenario, '1', 'open', 'did', crew.lead)
    scenario.basedOnSeq = early
    const late = scenario.submitSite({ type: 'hangTag', tagId: scenario.newId(), breakerId: scenario.breaker('1').id, lock: 'x' })
    expect(refused(late)).toBe('lateTag')
  })
  test('taken off while a mate relies on the proof: the mate is alarmed', () => {
    const scenario = one()
    tag(scenario, '1', crew.ben)
    scenario.must(scenario.submitSite({ type: 'witnessProof', proofId: scenario.box('door').proofId! }, crew.ben))
    scenario.takeTagsOff()
    expect([touch(scenario, 'door', crew.ben), alarmed(scenario)]).toEqual(['alarmOpen', ['BT']])
  })
})

describe('sources', () => {
  const battery = {
    ...file,
    site: { ...file.site, sources: [...file.site.sources, { key: 'b', kind: 'battery' as const, name: 'battery' }] },
  }
  test('one without a switching point: the main isolates nothing, a box’s own breaker does', () => {
    const scenario = new Scenario(battery)
    scenario.openAndTag(['main'])
    expect(touch(scenario, 'door')).toBe('notIsolated')
    expect(canTouch(scenario.site, scenario.box('door').id, crew.ann, vantage(scenario))).toMatchObject({
      reasons: expect.arrayContaining([expect.stringContaining('has no switching point on record')]),
    })
    scenario.openAndTag(['1'])
    expect(touch(scenario, 'door')).toBe('notProven')
  })
  test('its point on record, open and tagged; or a licensed person’s reason why it reaches no box', () => {
    const scenario = new Scenario(battery)
    scenario.openAndTag(['main'])
    const sourceId = Object.values(scenario.site.sources).find((one) => one.kind === 'battery')!.id
    const panelId = Object.keys(scenario.site.panels)[0]!
    const point = (who: Actor) =>
      scenario.submitSite(
        { type: 'recordSourcePoint', sourceId, breakerId: scenario.newId(), number: 'B', panelId, basis: 'followed it' },
        who,
      )
    expect(refused(point(crew.ida))).toBe('licenceNeeded')
    scenario.must(point(crew.ann))
    expect(scenario.breaker('B').state).toBe('unknown')
    expect(touch(scenario, 'door')).toBe('notIsolated')
    scenario.openAndTag(['B'])
    expect(touch(scenario, 'door')).toBe('notProven')
    const other = new Scenario(battery)
    other.openAndTag(['main'])
    const id = Object.values(other.site.sources).find((one) => one.kind === 'battery')!.id
    other.must(other.submitSite({ type: 'ruleOutSource', sourceId: id, reason: 'feeds the boathouse only, other supply' }))
    expect(touch(other, 'door')).toBe('notProven')
  })
  test('one that is found ends every proof', () => {
    const scenario = both(['main'])
    scenario.must(
      scenario.submitSite({ type: 'recordSource', sourceId: scenario.newId(), kind: 'generator', name: 'shed generator' }, crew.ben),
    )
    expect([touch(scenario, 'door'), alarmed(scenario)]).toEqual(['notIsolated', ['AT']])
  })
})

describe('the graph', () => {
  const layOut = (scenario: Scenario, over: object, more: object = {}, who: Actor = crew.office) =>
    scenario.submitSite(
      {
        type: 'layOut',
        schemeId: 'na120',
        sources: [],
        panels: [],
        breakers: [],
        rooms: [],
        boxes: [{ ...scenario.box('door'), ...over }],
        ...more,
      },
      who,
    )
  test('what a later file adds to a box is added, ends its proof and is told; nothing is dropped', () => {
    const scenario = one()
    scenario.must(layOut(scenario, { breakerIds: [scenario.breaker('2').id], unknownFeed: true }))
    expect(scenario.box('door')).toMatchObject({ breakerIds: [scenario.breaker('1').id, scenario.breaker('2').id], unknownFeed: true })
    expect(alarmed(scenario)).toEqual(['AT'])
  })
  test('whoever lays out is told as well: an account may be open at a desk and in a box', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'], crew.lead)
    scenario.conductors('door', 'ABC', crew.lead)
    scenario.prove('door', crew.lead)
    scenario.must(layOut(scenario, { breakerIds: [scenario.breaker('2').id], unknownFeed: true }, {}, crew.lead))
    expect(alarmed(scenario)).toEqual([crew.lead.initials])
  })
  test('whoever has a permit to close is told not to, where a box that is open is on it now', () => {
    const scenario = one()
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('2').id, state: 'open' }, crew.ben))
    const grantId = scenario.newId()
    // Ann steps back from her proof and lets Ben close 2, which feeds nothing that is open.
    scenario.must(scenario.submitSite({ type: 'abandonProof', proofId: scenario.box('door').proofId!, reason: 'lunch' }))
    scenario.must(scenario.submitSite({ type: 'requestClose', grantId, breakerId: scenario.breaker('2').id }, crew.ben))
    const permit = scenario.site.grants[grantId]!
    expect(againstPermit(scenario.site, permit)).toEqual([])
    scenario.must(layOut(scenario, { breakerIds: [scenario.breaker('2').id], unknownFeed: false }))
    expect(alarmed(scenario)).toContain(crew.ben.initials)
    expect(againstPermit(scenario.site, permit)).toContain('Door is open behind it.')
  })
  describe('voltage that nothing on record explains: until the cause is known, any breaker may feed an open box it put in doubt', () => {
    /** Door is open and its breaker off; 2, of another room, is off and untagged. */
    const lit = () => {
      const scenario = one()
      scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('2').id, state: 'open' }, crew.ben))
      scenario.must(scenario.submitSite({ type: 'abandonProof', proofId: scenario.box('door').proofId!, reason: 'lunch' }))
      const see = () =>
        scenario.must(
          scenario.submitSite({ type: 'observeLive', boxId: scenario.box('door').id, what: 'lightOn', volts: null, note: '' }, crew.ann),
        )
      const grantId = scenario.newId()
      const leave = () => scenario.submitSite({ type: 'requestClose', grantId, breakerId: scenario.breaker('2').id }, crew.ben)
      return { scenario, see, leave, grantId }
    }
    const says = 'Door is open, and nobody has recorded what the voltage at door was: breaker 2 may feed it.'
    test('no leave', () => {
      const { scenario, see, leave } = lit()
      see()
      expect(canClose(scenario.site, scenario.breaker('2').id, crew.ben)).toMatchObject({ yes: false, reasons: [says] })
      scenario.must(cause(scenario, Object.values(scenario.site.signs)[0]!.seq, { kind: 'timer', note: 'photocell, taped' }))
      scenario.must(leave())
    })
    test('a permit that was given before stands no more, and whoever holds it is told', () => {
      const { scenario, see, leave, grantId } = lit()
      scenario.must(leave())
      see()
      expect(alarmed(scenario)).toContain(crew.ben.initials)
      expect(againstPermit(scenario.site, scenario.site.grants[grantId]!)).toEqual([says])
      const [sign] = Object.values(scenario.site.signs)
      expect(refused(cause(scenario, sign!.seq, { kind: 'unknown' }))).toBe('grantOutstanding')
    })
    test('for a moment: whoever opened it says clear', () => {
      const { scenario, see } = lit()
      see()
      const askId = scenario.newId()
      scenario.must(
        scenario.submitSite(
          { type: 'askEnergise', askId, breakerId: scenario.breaker('2').id, boxId: null, purpose: 'identify', note: '' },
          crew.ben,
        ),
      )
      const waits = () => notYetClear(scenario.site, scenario.site.asks[askId]!).map(({ initials }) => initials)
      expect(waits()).toContain('AT')
      scenario.must(scenario.submitSite({ type: 'confirmClear', askId }, crew.ann))
      expect(waits()).not.toContain('AT')
    })
  })
  test('so is another switch', () => {
    const scenario = one()
    scenario.must(layOut(scenario, { farBoxIds: [scenario.box('stair').id] }))
    expect(touch(scenario, 'door')).toBe('alarmOpen')
  })
  test('the supply of a home does not change', () => {
    expect(refused(layOut(one(), {}, { schemeId: 'iec230' }))).toBe('schemeFixed')
  })
  test('a removal is for now: not from a queue', () => {
    const scenario = new Scenario(file)
    scenario.heldMs = 120_000
    const drop = {
      type: 'setFeeds' as const,
      boxId: scenario.box('stair').id,
      breakerIds: [scenario.breaker('1').id],
      unknownFeed: false,
      basis: 'traced',
    }
    expect(refused(scenario.submitSite(drop))).toBe('onlineOnly')
  })
  test('a conductor that read voltage stays on the list while the box is open; a reading under a wrong letter is moved', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCD')
    const proofId = scenario.startProof('door')
    scenario.must(scenario.submitSite({ type: 'takeReading', proofId, a: 'D', b: 'REF', impedance: 'low', volts: 118 }))
    const without = () => {
      const conductors = scenario.box('door').conductors.filter((conductor) => conductor.letter !== 'D')
      return scenario.submitSite({ type: 'recordConductors', boxId: scenario.box('door').id, conductors })
    }
    expect(refused(without())).toBe('readLive')
    scenario.must(scenario.submitSite({ type: 'moveReading', boxId: scenario.box('door').id, from: 'D', to: 'A' }))
    expect(refused(without())).toBe('accepted')
    expect(scenario.box('door').readLive).toEqual(['A'])
  })
  test('two panels: a breaker is named with its own; two boxes of one name with their rooms', () => {
    const scenario = new Scenario({
      ...file,
      rooms: [...file.rooms, { key: 'loft', name: 'Loft', place: null }],
      panels: [
        ...file.panels,
        {
          ...file.panels[0]!,
          key: 'p2',
          name: 'boathouse panel',
          main: null,
          otherMains: [],
          fedFrom: { panel: 'panel', breaker: '3' },
          alsoFedFrom: [],
        },
      ],
      boxes: [...file.boxes, { ...file.boxes[0]!, key: 'door2', room: 'loft', feeds: [{ panel: 'p2', breaker: '1' }] }],
    })
    const ones = Object.values(scenario.site.breakers).filter((breaker) => breaker.number === '1')
    expect(ones.map((breaker) => breakerName(scenario.site, breaker))).toEqual(['breaker 1 (panel)', 'breaker 1 (boathouse panel)'])
    const loft = Object.values(scenario.site.boxes).find((box) => scenario.site.rooms[box.roomId]!.name === 'Loft')!
    expect(canTouch(scenario.site, loft.id, crew.ann, vantage(scenario))).toMatchObject({
      reasons: ['Breaker 1 (boathouse panel) is closed.'],
    })
  })
})

describe('licences', () => {
  const note = (scenario: Scenario, who: Actor, over: object) =>
    scenario.must(
      scenario.submitSite(
        { type: 'notePerson', personId: who.personId, licensed: true, role: who.role, active: true, ...over } as never,
        crew.lead,
      ),
    )
  test('withdrawn in the middle: the proof ends, unless another licensed person saw it', () => {
    const scenario = one()
    note(scenario, crew.ann, { licensed: false })
    expect(touch(scenario, 'door', { ...crew.ann, licensed: false })).toBe('alarmOpen')
    const seen = one()
    tag(seen, '1', crew.ben)
    seen.must(seen.submitSite({ type: 'witnessProof', proofId: seen.box('door').proofId! }, crew.ben))
    note(seen, crew.ann, { licensed: false })
    expect(touch(seen, 'door', { ...crew.ann, licensed: false })).toBe('yes')
  })
  test('while it is being made: no touching alone', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const proofId = scenario.startProof('door')
    note(scenario, crew.ann, { licensed: false })
    const ann = { ...crew.ann, licensed: false }
    scenario.readAll(proofId, ann)
    scenario.must(scenario.submitSite({ type: 'finishProof', proofId, volts: 240 }, ann))
    expect(touch(scenario, 'door', ann)).toBe('needsWitness')
  })
  test('only somebody on a visit of today witnesses; the licensed witness leaves, and the apprentice’s proof ends', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'], crew.ida)
    scenario.conductors('door', 'ABC', crew.ida)
    const proofId = scenario.prove('door', crew.ida)
    scenario.offVisit.add(crew.lead.personId)
    expect(refused(scenario.submitSite({ type: 'witnessProof', proofId }, crew.lead))).toBe('notOnVisit')
    scenario.must(scenario.submitSite({ type: 'witnessProof', proofId }, crew.ben))
    expect(touch(scenario, 'door', crew.ida)).toBe('yes')
    scenario.must(scenario.submitSite({ type: 'leaveSite' }, crew.ben))
    expect([touch(scenario, 'door', crew.ida), alarmed(scenario)]).toEqual(['alarmOpen', ['IT']])
  })
  test('an apprentice does not ask to close', () => {
    const scenario = new Scenario(file)
    lever(scenario, '1', 'open', 'did')
    expect(refused(close(scenario, '1', crew.ida))).toBe('licenceNeeded')
  })
})

describe('power for a moment', () => {
  test('whoever opened a box behind it is asked, also when somebody else opened it later', () => {
    const scenario = one()
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('door').id }, crew.ben))
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('door').id }, crew.lead))
    const ask = { breakerId: scenario.breaker('1').id, clear: [] }
    expect(
      notYetClear(scenario.site, ask)
        .map((person) => person.initials)
        .sort(),
    ).toEqual(['AT', 'BT', 'LT'])
  })
})

describe('a parted neutral', () => {
  function parted() {
    const scenario = one()
    const partId = scenario.newId()
    const part = (loadsOn: boolean) =>
      scenario.submitSite({
        type: 'openNeutral',
        partId,
        boxId: scenario.box('door').id,
        what: 'whites',
        basis: { kind: 'clamp', amps: 0, loadsOn },
      })
    expect(refused(part(false))).toBe('loadsOff')
    scenario.must(part(true))
    const test = (voltsAway: number, over: object = {}, who: Actor = crew.ann) =>
      scenario.submitSite({ type: 'testParted', partId, instrumentId: 'good', voltsHere: 0, voltsAway, testerVolts: 240, ...over }, who)
    return { scenario, test }
  }
  test('its ends are tested as in a proof: by whoever made it, with that tester, still good, knowing of the newest sign', () => {
    const { scenario, test } = parted()
    expect([
      refused(test(0, {}, crew.ida)),
      refused(test(0, { instrumentId: 'detector' })),
      refused(test(0, { testerVolts: 60 })),
      refused(test(0)),
    ]).toEqual(['notProven', 'otherTester', 'testerSilent', 'accepted'])
    expect(touch(scenario, 'door')).toBe('yes')
  })
  test('a voltage later undoes the test', () => {
    const { scenario, test } = parted()
    scenario.must(test(0))
    light(scenario, 'door')
    expect(scenario.box('door').parted[0]!.tested).toBe(false)
  })
  test('voltage counts from anybody', () => {
    const { scenario, test } = parted()
    scenario.must(test(118, {}, crew.ida))
    expect(scenario.site.proofs[scenario.box('door').proofId!]!.status).toBe('void')
  })
})

describe('no dead ends', () => {
  test('the ordinary end of two people on one box: each is told, answers, and it closes', () => {
    const scenario = one()
    tag(scenario, '1', crew.ben)
    scenario.must(scenario.submitSite({ type: 'witnessProof', proofId: scenario.box('door').proofId! }, crew.ben))
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
    scenario.takeTagsOff()
    scenario.takeTagsOff(crew.ben)
    expect(refused(close(scenario, '1'))).toBe('mayNotClose')
    scenario.must(scenario.submitSite({ type: 'confirmStopped' }, crew.ben))
    expect(refused(close(scenario, '1'))).toBe('accepted')
  })
  test('who is gone: a lead declares it, a second person confirms, and everything they left ends', () => {
    const scenario = one()
    scenario.openAndTag(['3'], crew.ann)
    const declare = (who: Actor, explained = '') =>
      scenario.submitSite(
        { type: 'declareAbsent', personId: crew.ann.personId, reason: 'phoned, is at home', leftBuildingVerified: true, explained },
        who,
      )
    expect([refused(declare(crew.ben)), refused(declare(crew.lead))]).toEqual(['leadOnly', 'seemsHere'])
    scenario.must(declare(crew.lead, 'left with the van at noon, answered from home'))
    const confirm = (who: Actor, household: { name: string; strokes: [number, number][][] } | null = null) =>
      scenario.submitSite({ type: 'confirmAbsent', personId: crew.ann.personId, household }, who)
    expect([refused(confirm(crew.lead)), refused(confirm(crew.ann))]).toEqual(['secondPerson', 'notAbsent'])
    scenario.must(confirm(crew.ben))
    expect(scenario.site.tags).toEqual({})
    // The box stands open: a licensed mate proves it and closes it.
    scenario.openAndTag(['1'], crew.ben)
    scenario.prove('door', crew.ben)
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }, crew.ben))
    scenario.takeTagsOff(crew.ben)
    expect([refused(close(scenario, '1')), refused(close(scenario, '3'))]).toEqual(['accepted', 'accepted'])
  })
  test('a permit to close that a gone person held: somebody has to look at the lever', () => {
    const scenario = new Scenario(file)
    lever(scenario, '2', 'open', 'did')
    scenario.must(close(scenario, '2', crew.ann))
    const explained = 'seen driving off, phone in the van'
    scenario.must(
      scenario.submitSite(
        { type: 'declareAbsent', personId: crew.ann.personId, reason: 'phoned, is at home', leftBuildingVerified: true, explained },
        crew.lead,
      ),
    )
    scenario.must(scenario.submitSite({ type: 'confirmAbsent', personId: crew.ann.personId }, crew.ben))
    expect([scenario.site.grants, scenario.breaker('2').state]).toEqual([{}, 'unknown'])
  })
  test('nobody else in the company: somebody at the home signs', () => {
    const scenario = one()
    scenario.must(
      scenario.submitSite(
        {
          type: 'declareAbsent',
          personId: crew.ann.personId,
          reason: 'phoned, is at home',
          leftBuildingVerified: true,
          explained: 'seen leaving by the customer',
        },
        crew.lead,
      ),
    )
    const household = {
      name: 'M. Tide',
      strokes: [
        [
          [0, 0],
          [1, 1],
        ] as [number, number][],
      ],
    }
    scenario.must(scenario.submitSite({ type: 'confirmAbsent', personId: crew.ann.personId, household }, crew.lead))
    expect(scenario.site.tags).toEqual({})
  })
  test('looking in with the power on: the plate goes back without any proof', () => {
    const scenario = new Scenario(file)
    const boxId = scenario.box('door').id
    const look = (who: Actor, warnedIds: string[]) => scenario.submitSite({ type: 'lookIn', boxId, warnedIds }, who)
    expect([
      refused(look(crew.ida, [crew.ann.personId])),
      refused(look(crew.ann, [])),
      refused(look(crew.ann, [crew.ben.personId])),
    ]).toEqual(['licenceNeeded', 'nobodyWarned', 'accepted'])
    expect(touch(scenario, 'door')).toBe('notIsolated')
    expect(refused(scenario.submitSite({ type: 'leaveSite' }))).toBe('boxOpen')
    expect(refused(scenario.submitSite({ type: 'closeBox', boxId }))).toBe('accepted')
    expect(refused(scenario.submitSite({ type: 'leaveSite' }))).toBe('accepted')
  })
  test('capped and guarded by somebody who has left: somebody on site takes it over, then it closes', () => {
    const scenario = one()
    // As a phone says it that was away since an earlier program.
    scenario.must(scenario.submitSite({ type: 'guardBox' as 'makeSafe', boxId: scenario.box('door').id, how: 'ends capped' }))
    scenario.takeTagsOff()
    scenario.must(scenario.submitSite({ type: 'leaveSite' }))
    expect(refused(close(scenario, '1'))).toBe('mayNotClose')
    scenario.must(scenario.submitSite({ type: 'takeOverGuard', boxId: scenario.box('door').id }, crew.ben))
    expect(refused(close(scenario, '1'))).toBe('accepted')
  })
  test('five switches with ordinary names: 32 positions are structure, not a text that is too long', () => {
    const controls = [
      'the landing by the sail room window',
      'the stair to the net loft, upper end',
      'the mud room by the back door',
      'the tide room, left of the hatch',
    ]
    const scenario = new Scenario({
      ...file,
      boxes: [...file.boxes, ...controls.map((name) => ({ ...file.boxes[0]!, key: name, name }))],
      points: [
        {
          ...file.points[0]!,
          controls: ['door', ...controls].map((box) => ({ box, gang: 1 })),
        },
      ],
    })
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    scenario.prove('door')
    expect(touch(scenario, 'door')).toBe('yes')
  })
  test('twelve conductors want 23 readings, not 78', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCDEFGHIJKL')
    const proof = scenario.site.proofs[scenario.startProof('door')]!
    expect(pairStatuses(scenario.site, scenario.box('door'), proof)).toHaveLength(12 + 11)
  })
})
