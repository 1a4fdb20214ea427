import { crew, Scenario, testFile } from '../testing/scenario'
import { atServer, canClose, canTag, canTouch, isEnergised } from './permissions'
import { farPositions, positionText, requiredPairs } from './proofs'
import { judgeKnownLive, judgeReading } from './reading'
import { circuitTile, nextPowerStep, railFor, stepAfterClosing } from './rail'
import { supplySchemes } from '../units'
import type { Actor } from '../stream'

const vantage = (scenario: Scenario, later = 0) => atServer(new Date(scenario.now + later * 60_000).toISOString(), 120)
const touch = (scenario: Scenario, box: string, who: Actor = crew.ann, later = 0) =>
  canTouch(scenario.site, scenario.box(box).id, who, vantage(scenario, later))
const code = (answer: { yes: boolean } & Partial<{ code: string }>) => (answer.yes ? 'yes' : answer.code)
const refused = (result: ReturnType<Scenario['submitSite']>) => (result.ok ? 'accepted' : result.refusal.code)

/** Box "door" proven dead by Ann. */
function proven(): Scenario {
  const scenario = new Scenario()
  scenario.openAndTag(['1'])
  scenario.conductors('door')
  scenario.prove('door')
  return scenario
}

describe('readings', () => {
  test.each([
    [0.4, 'high', 'dead'],
    [0.4, 'low', 'dead'],
    [1, 'high', 'repeatLow'],
    [14.2, 'high', 'repeatLow'],
    [78, 'high', 'repeatLow'],
    [1, 'low', 'unexplained'],
    [49.9, 'low', 'unexplained'],
    [50, 'low', 'live'],
    [121, 'low', 'live'],
  ] as const)('%d V at %s impedance: %s (below 1 V: common practice; 50 V: NFPA 70E)', (volts, impedance, verdict) =>
    expect(judgeReading(volts, impedance).verdict).toBe(verdict),
  )
  test('ANSI C84.1 range A at the switch: 108 to 126 V; IEC 60038: 230 V ± 10 %', () => {
    const { na120, iec230 } = supplySchemes
    expect([na120.serviceBandVolts, na120.utilisationBandVolts]).toEqual([
      { low: 114, high: 126 },
      { low: 108, high: 126 },
    ])
    expect([iec230.utilisationBandVolts.low, iec230.utilisationBandVolts.high]).toEqual([230 - 23, 230 + 23])
    for (const [volts, scheme, warns] of [
      [108, na120, false],
      [126, na120, false],
      [107.9, na120, true],
      [126.1, na120, true],
      [207, iec230, false],
      [253, iec230, false],
      [254, iec230, true],
    ] as const)
      expect(judgeKnownLive(volts, scheme).warning !== null).toBe(warns)
    expect(judgeKnownLive(12, na120).ok).toBe(false)
  })
})

describe('touching', () => {
  test('nothing is touchable from the start', () => {
    const scenario = new Scenario()
    for (const box of ['door', 'stair', 'attic']) expect(code(touch(scenario, box))).toBe('notIsolated')
  })
  test('open and tagged is not yet proven; proven is', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1'])
    expect(code(touch(scenario, 'door'))).toBe('notProven')
    scenario.conductors('door')
    scenario.prove('door')
    expect(code(touch(scenario, 'door'))).toBe('yes')
  })
  test('a tag is a person’s: a mate needs an own tag and has to witness', () => {
    const scenario = proven()
    expect(code(touch(scenario, 'door', crew.ben))).toBe('notIsolated')
    scenario.must(
      scenario.submitSite(
        { type: 'hangTag', tagId: scenario.newId(), breakerId: scenario.breaker('1').id, lock: 'blue', measure: '' },
        crew.ben,
      ),
    )
    expect(code(touch(scenario, 'door', crew.ben))).toBe('notWitnessed')
    scenario.must(scenario.submitSite({ type: 'witnessProof', proofId: scenario.box('door').proofId! }, crew.ben))
    expect(code(touch(scenario, 'door', crew.ben))).toBe('yes')
  })
  test('two feeds: both open and tagged', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1'])
    expect(touch(scenario, 'stair')).toMatchObject({ yes: false, reasons: ['Breaker 2 is closed.'] })
    scenario.openAndTag(['2'])
    expect(code(touch(scenario, 'stair'))).toBe('notProven')
  })
  test('unknown feed: the main, open and tagged; a branch breaker is not enough', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1', '2', '3'])
    expect(code(touch(scenario, 'attic'))).toBe('notIsolated')
    scenario.openAndTag(['main'])
    expect(code(touch(scenario, 'attic'))).toBe('notProven')
  })
  test('a second source without a main in the directory keeps an unknown feed untouchable', () => {
    const scenario = new Scenario({
      ...testFile,
      site: { ...testFile.site, sources: [...testFile.site.sources, { key: 'roof', kind: 'solar', name: 'roof array' }] },
    })
    scenario.openAndTag(['main'])
    expect(touch(scenario, 'attic')).toMatchObject({ yes: false, code: 'notIsolated' })
  })
  test('a shared neutral ties circuits together and ends the proof', () => {
    const scenario = proven()
    scenario.must(
      scenario.submitSite(
        { type: 'tieNeutrals', breakerIds: [scenario.breaker('1').id, scenario.breaker('3').id], basis: 'neutral seen' },
        crew.ben,
      ),
    )
    expect(code(touch(scenario, 'door'))).toBe('notIsolated')
    scenario.openAndTag(['3'])
    expect(code(touch(scenario, 'door'))).toBe('alarmOpen')
    scenario.must(scenario.submitSite({ type: 'confirmStopped' }))
    expect(code(touch(scenario, 'door'))).toBe('notProven')
  })
  test('time runs out', () => {
    const scenario = proven()
    expect(code(touch(scenario, 'door', crew.ann, 119))).toBe('yes')
    expect(code(touch(scenario, 'door', crew.ann, 121))).toBe('proofExpired')
  })
  test('an apprentice’s proof needs a licensed witness, for the apprentice too', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1'], crew.ida)
    scenario.conductors('door')
    const proofId = scenario.prove('door', crew.ida)
    expect(code(touch(scenario, 'door', crew.ida))).toBe('needsWitness')
    scenario.must(scenario.submitSite({ type: 'witnessProof', proofId }, crew.ann))
    expect(code(touch(scenario, 'door', crew.ida))).toBe('yes')
  })
  test('an event this program does not understand: nothing is granted', () => {
    const scenario = proven()
    scenario.site.unknownEvent = 'newThing v3'
    expect(code(touch(scenario, 'door'))).toBe('updateNeeded')
    expect(code(canTag(scenario.site, scenario.breaker('2').id, crew.ann))).toBe('updateNeeded')
    expect(code(canClose(scenario.site, scenario.breaker('1').id, crew.ann))).toBe('updateNeeded')
    expect(refused(scenario.submitSite({ type: 'makeSafe', boxId: scenario.box('door').id, how: 'ends capped' }))).toBe('updateNeeded')
    expect(refused(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'closed', note: '' }))).toBe(
      'accepted',
    )
  })
})

describe('what ends a proof', () => {
  const endings: Record<string, (scenario: Scenario) => unknown> = {
    'found closed by a mate': (s) =>
      s.submitSite({ type: 'observeBreaker', breakerId: s.breaker('1').id, state: 'closed', note: '' }, crew.ben),
    'found tripped': (s) => s.submitSite({ type: 'observeBreaker', breakerId: s.breaker('1').id, state: 'tripped', note: '' }, crew.ben),
    'the main found closed again': (s) =>
      s.submitSite({ type: 'observeBreaker', breakerId: s.breaker('main').id, state: 'closed', note: '' }, crew.ben),
    'a light seen on': (s) =>
      s.submitSite({ type: 'observeLive', boxId: s.box('door').id, what: 'lightOn', volts: null, note: '' }, crew.ben),
    'voltage in another box on the same feed': (s) =>
      s.submitSite({ type: 'observeLive', boxId: s.box('stair').id, what: 'meter', volts: 118, note: '' }, crew.ben),
    'another feed found': (s) =>
      s.submitSite(
        {
          type: 'setFeeds',
          boxId: s.box('door').id,
          breakerIds: [s.breaker('1').id, s.breaker('3').id],
          unknownFeed: false,
          basis: 'second cable',
        },
        crew.ben,
      ),
    'another conductor found': (s) => s.conductors('door', 'ABCD', crew.ben),
    'the prover’s tag taken off': (s) => s.takeTagsOff(),
    'the box closed': (s) => s.submitSite({ type: 'closeBox', boxId: s.box('door').id }),
    'the prover leaves': (s) => {
      s.takeTagsOff()
      return s.submitSite({ type: 'leaveSite' })
    },
  }
  test.each(Object.keys(endings))('%s', (name) => {
    const scenario = proven()
    const proofId = scenario.box('door').proofId!
    endings[name]!(scenario)
    expect(scenario.site.proofs[proofId]!.status).toBe('void')
    expect(touch(scenario, 'door').yes).toBe(false)
    // Opening and tagging again does not bring it back.
    for (const number of ['main', '1', '3']) {
      if (scenario.breaker(number).state !== 'open')
        scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker(number).id, state: 'open', note: '' })
      scenario.submitSite({
        type: 'hangTag',
        tagId: scenario.newId(),
        breakerId: scenario.breaker(number).id,
        lock: `x ${scenario.newId()}`,
        measure: '',
      })
    }
    for (const tag of Object.values(scenario.site.tags).filter((one) => one.defeated))
      scenario.must(scenario.submitSite({ type: 'rehangTag', tagId: tag.id, cause: 'the customer had cut it' }))
    scenario.submitSite({ type: 'confirmStopped' })
    expect(code(touch(scenario, 'door'))).toBe('notProven')
  })
  test('a fact that says energised alarms those who rely on it, not the reporter', () => {
    const scenario = proven()
    const [event] = scenario.must(
      scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'closed', note: '' }, crew.ben),
    )
    expect(event!.payload).toMatchObject({ alarms: [crew.ann.personId], voids: [scenario.box('door').proofId] })
  })
})

describe('facts', () => {
  test('are taken from anybody who sees the site; permissions are not', () => {
    const scenario = new Scenario()
    scenario.offCrew.add(crew.ben.personId)
    expect(
      refused(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'tripped', note: '' }, crew.ben)),
    ).toBe('accepted')
    expect(
      refused(
        scenario.submitSite(
          { type: 'hangTag', tagId: scenario.newId(), breakerId: scenario.breaker('1').id, lock: `x ${scenario.newId()}`, measure: '' },
          crew.ben,
        ),
      ),
    ).toBe('notOnCrew')
    expect(
      refused(scenario.submitSite({ type: 'requestClose', grantId: scenario.newId(), breakerId: scenario.breaker('1').id }, crew.ben)),
    ).toBe('notOnCrew')
  })
  test('a late “open” changes nothing: it does not know of the sign of power in between', () => {
    const scenario = new Scenario()
    const before = scenario.site.seq
    scenario.must(
      scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'closed', note: 'found' }, crew.ben),
    )
    scenario.basedOnSeq = before
    const [event] = scenario.must(
      scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', note: '' }),
    )
    expect(event!.payload).toMatchObject({ late: true })
    expect(scenario.breaker('1').state).toBe('closed')
  })
  test('“open” while somebody holds a permit to close changes nothing either', () => {
    const scenario = new Scenario()
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', note: '' }))
    scenario.must(scenario.submitSite({ type: 'requestClose', grantId: scenario.newId(), breakerId: scenario.breaker('1').id }, crew.ben))
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', note: '' }))
    expect(isEnergised(scenario.site, scenario.breaker('1'))).toBe(true)
    expect(code(canTag(scenario.site, scenario.breaker('1').id, crew.ann))).toBe('grantOutstanding')
  })
})

describe('tags', () => {
  test('hang only on an open point and stand for a lock or a written measure', () => {
    const scenario = new Scenario()
    const tag = (over = {}) =>
      scenario.submitSite({
        type: 'hangTag',
        tagId: scenario.newId(),
        breakerId: scenario.breaker('1').id,
        lock: 'red',
        measure: '',
        ...over,
      })
    expect(refused(tag())).toBe('notOpen')
    scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', note: '' })
    expect(refused(tag({ lock: '' }))).toBe('noLock')
    expect(refused(tag({ lock: '', measure: 'panel door locked' }))).toBe('accepted')
    expect(refused(tag())).toBe('alreadyTagged')
  })
  test('only their owner takes them off', () => {
    const scenario = proven()
    const tagId = Object.keys(scenario.site.tags)[0]!
    expect(refused(scenario.submitSite({ type: 'removeTag', tagId }, crew.ben))).toBe('notYourTag')
  })
  test('somebody taken off the visit still takes their own tag off, and answers what they asked', () => {
    const scenario = proven()
    scenario.offCrew.add(crew.ann.personId)
    expect(refused(scenario.submitSite({ type: 'removeTag', tagId: Object.keys(scenario.site.tags)[0]! }))).toBe('accepted')
    const other = new Scenario()
    other.must(other.submitSite({ type: 'observeBreaker', breakerId: other.breaker('1').id, state: 'open', note: '' }))
    const grantId = other.newId()
    other.must(other.submitSite({ type: 'requestClose', grantId, breakerId: other.breaker('1').id }, crew.ben))
    other.offCrew.add(crew.ben.personId)
    expect(refused(other.submitSite({ type: 'answerPermit', grantId, answer: 'closed' }, crew.ben))).toBe('accepted')
  })
  test('nobody leaves a tag behind', () => {
    const scenario = proven()
    expect(refused(scenario.submitSite({ type: 'leaveSite' }))).toBe('tagsLeft')
  })
})

describe('closing', () => {
  test('refused while a tag hangs, naming its owner; one’s own tag too', () => {
    const scenario = proven()
    for (const who of [crew.ann, crew.ben]) {
      const result = scenario.submitSite({ type: 'requestClose', grantId: scenario.newId(), breakerId: scenario.breaker('1').id }, who)
      expect(result.ok ? '' : result.refusal.reasons.join(' ')).toMatch(/Ann Test \(AT\) has a tag on breaker 1 with lock AT red 1/)
    }
  })
  test('refused while a box behind it is open, the main included; allowed when closed or guarded', () => {
    const scenario = proven()
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('main').id, state: 'open', note: '' }))
    scenario.takeTagsOff()
    expect(canClose(scenario.site, scenario.breaker('1').id, crew.ann)).toMatchObject({ yes: false, reasons: ['Door is open behind it.'] })
    expect(canClose(scenario.site, scenario.breaker('main').id, crew.ann).yes).toBe(false)
    const other = proven()
    other.must(other.submitSite({ type: 'makeSafe', boxId: other.box('door').id, how: 'ends capped, blank plate' }))
    other.takeTagsOff()
    expect(canClose(other.site, other.breaker('1').id, crew.ann).yes).toBe(true)
  })
  test('a box is closed only by hands that may touch it', () => {
    const scenario = proven()
    expect(refused(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }, crew.ben))).toBe('notIsolated')
    expect(refused(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))).toBe('accepted')
  })
  test('after a trip its cause is recorded first', () => {
    const scenario = new Scenario()
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'tripped', note: '' }))
    expect(canClose(scenario.site, scenario.breaker('1').id, crew.ann)).toMatchObject({ yes: false })
    scenario.must(scenario.submitSite({ type: 'recordTripCause', breakerId: scenario.breaker('1').id, cause: 'nicked conductor' }))
    expect(canClose(scenario.site, scenario.breaker('1').id, crew.ann).yes).toBe(true)
  })
  test('a grant is live from that instant, stays live unanswered, and ends with its answer', () => {
    const scenario = new Scenario()
    scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', note: '' })
    expect(isEnergised(scenario.site, scenario.breaker('1'))).toBe(false)
    const grantId = scenario.newId()
    scenario.must(scenario.submitSite({ type: 'requestClose', grantId, breakerId: scenario.breaker('1').id }, crew.ben))
    expect(isEnergised(scenario.site, scenario.breaker('1'))).toBe(true)
    scenario.now += 86_400_000
    expect(isEnergised(scenario.site, scenario.breaker('1'))).toBe(true)
    expect(refused(scenario.submitSite({ type: 'answerPermit', grantId, answer: 'givenUp' }))).toBe('notYours')
    scenario.must(scenario.submitSite({ type: 'answerPermit', grantId, answer: 'givenUp' }, crew.ben))
    expect(isEnergised(scenario.site, scenario.breaker('1'))).toBe(false)
  })
})

describe('proving', () => {
  const start = (scenario: Scenario, over = {}, who: Actor = crew.ann) =>
    scenario.submitSite(
      {
        type: 'startProof',
        proofId: scenario.newId(),
        boxId: scenario.box('door').id,
        instrumentId: 'good',
        source: { kind: 'provingUnit', name: 'unit' },
        volts: 240,
        ...over,
      },
      who,
    )
  function ready(): Scenario {
    const scenario = new Scenario()
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    return scenario
  }
  test('needs isolation, conductors, a tester in date and a live source that is not behind an open breaker', () => {
    const bare = new Scenario()
    expect(refused(start(bare))).toBe('notIsolated')
    bare.openAndTag(['1'])
    expect(refused(start(bare))).toBe('plateOn')
    bare.must(bare.submitSite({ type: 'openBox', boxId: bare.box('door').id }))
    expect(refused(start(bare))).toBe('noConductors')
    const scenario = ready()
    expect(refused(start(scenario, { instrumentId: 'old' }))).toBe('calibrationOver')
    expect(refused(start(scenario, { instrumentId: 'none' }))).toBe('noSuchInstrument')
    // A calibration ends with a day at the site: UTC is half a day ahead or behind.
    const { calibrationDue } = scenario.instruments['good']!
    scenario.today = calibrationDue
    expect(refused(start(scenario, { volts: 0 }))).toBe('testerSilent')
    scenario.today = `${Number(calibrationDue.slice(0, 4)) + 1}-01-01`
    expect(refused(start(scenario))).toBe('calibrationOver')
    scenario.today = null
    expect(refused(start(scenario, { source: { kind: 'breaker', breakerId: scenario.breaker('1').id, name: 'socket' }, volts: 120 }))).toBe(
      'sourceNotLive',
    )
    expect(refused(start(scenario, { source: { kind: 'breaker', breakerId: scenario.breaker('2').id, name: 'socket' }, volts: 3 }))).toBe(
      'sourceNotLive',
    )
    expect(refused(start(scenario, { volts: 0 }))).toBe('testerSilent')
    expect(refused(start(scenario, { source: { kind: 'breaker', breakerId: scenario.breaker('2').id, name: 'socket' }, volts: 119 }))).toBe(
      'accepted',
    )
  })
  test('no reference, no reading', () => {
    const scenario = ready()
    const [event] = scenario.must(start(scenario))
    const { proofId } = event!.payload as { proofId: string }
    expect(refused(scenario.submitSite({ type: 'takeReading', proofId, a: 'A', b: 'REF', impedance: 'low', volts: 0 }))).toBe('noReference')
    const seen = { kind: 'continuity' as const, ohms: 0.6, leadOhms: 0.3 }
    expect(refused(scenario.submitSite({ type: 'seeReference', proofId, reference: 'boxGround', letter: null, seen, again: false }))).toBe(
      'referenceUnnamed',
    )
    expect(refused(scenario.submitSite({ type: 'seeReference', proofId, reference: 'wanderLead', letter: 'A', seen, again: false }))).toBe(
      'referenceUnclear',
    )
  })
  test('every conductor against the reference, then against the neutral: 3 conductors, 5 readings; the ground itself as reference leaves 3', () => {
    const scenario = ready()
    const proof = scenario.site.proofs[scenario.startProof('door')]!
    const pairs = () => requiredPairs(scenario.site, scenario.box('door'), proof).map((pair) => `${pair.a}-${pair.b}`)
    expect(pairs()).toEqual(['A-REF', 'B-REF', 'C-REF', 'A-B', 'C-B'])
    proof.reference!.letter = 'C'
    expect(pairs()).toEqual(['A-REF', 'B-REF', 'A-B'])
    proof.everyPair = true
    proof.reference!.letter = null
    expect(pairs()).toEqual(['A-REF', 'B-REF', 'C-REF', 'A-B', 'A-C', 'B-C'])
  })
  test('in each position of the far switch', () => {
    const scenario = new Scenario({
      ...testFile,
      points: [
        {
          ...testFile.points[0]!,
          controls: [
            { box: 'door', gang: 1 },
            { box: 'stair', gang: 2 },
          ],
        },
      ],
    })
    expect(farPositions(scenario.box('door')).map((position) => positionText(scenario.site, position))).toEqual(['stair up', 'stair down'])
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const proof = scenario.site.proofs[scenario.startProof('door')]!
    expect(requiredPairs(scenario.site, scenario.box('door'), proof)).toHaveLength(3 + 3 + 2)
  })
  test('high impedance from 1 V up is repeated with low; a missing pair keeps it open', () => {
    const scenario = ready()
    const proofId = scenario.startProof('door')
    const read = (a: string, b: string, impedance: 'high' | 'low', volts: number) =>
      scenario.submitSite({ type: 'takeReading', proofId, a, b, impedance, volts })
    for (const [a, b] of [
      ['A', 'REF'],
      ['B', 'REF'],
      ['C', 'REF'],
      ['A', 'B'],
    ] as const)
      scenario.must(read(a, b, 'high', a === 'A' && b === 'REF' ? 14.2 : 0.2))
    expect(refused(scenario.submitSite({ type: 'finishProof', proofId, volts: 240 }))).toBe('readingsMissing')
    scenario.must(read('B', 'C', 'low', 0))
    // By high impedance again it may read nothing for a moment: that clears nothing.
    scenario.must(read('A', 'REF', 'high', 0.5))
    const result = scenario.submitSite({ type: 'finishProof', proofId, volts: 240 })
    expect(result.ok ? '' : result.refusal.toYes[0]).toMatch(/A to reference, low impedance/)
    scenario.must(read('A', 'REF', 'low', 0.2))
    expect(refused(scenario.submitSite({ type: 'finishProof', proofId, volts: 240 }))).toBe('referenceAgain')
    scenario.must(scenario.seeReference(proofId, crew.ann, { again: true }))
    scenario.must(scenario.submitSite({ type: 'finishProof', proofId, volts: 240 }))
    expect(code(touch(scenario, 'door'))).toBe('yes')
  })
  test.each([
    [12, 'unexplained'],
    [119, 'live'],
  ])('%d V with low impedance (%s) stops and ends the proof', (volts) => {
    const scenario = ready()
    const proofId = scenario.startProof('door')
    scenario.must(scenario.submitSite({ type: 'takeReading', proofId, a: 'A', b: 'REF', impedance: 'low', volts }))
    expect(scenario.site.proofs[proofId]!.status).toBe('void')
    expect(refused(scenario.submitSite({ type: 'takeReading', proofId, a: 'B', b: 'REF', impedance: 'low', volts: 0 }))).toBe('proofClosed')
  })
  test('a meter without the range cannot give such a reading; a mate cannot write into my proof', () => {
    const scenario = ready()
    const proofId = scenario.startProof('door', crew.ann, 'highOnly')
    expect(refused(scenario.submitSite({ type: 'takeReading', proofId, a: 'A', b: 'REF', impedance: 'low', volts: 0 }))).toBe('wrongMeter')
    expect(refused(scenario.submitSite({ type: 'takeReading', proofId, a: 'A', b: 'REF', impedance: 'high', volts: 0 }, crew.ben))).toBe(
      'notYours',
    )
  })
  test('a mate cannot start over a proof that is being made, but may after 10 minutes of rest, or once it is too old', () => {
    const scenario = ready()
    scenario.startProof('door')
    scenario.must(
      scenario.submitSite(
        { type: 'hangTag', tagId: scenario.newId(), breakerId: scenario.breaker('1').id, lock: 'b', measure: '' },
        crew.ben,
      ),
    )
    const byBen = () => start(scenario, {}, crew.ben)
    expect(refused(byBen())).toBe('beingProven')
    scenario.now += 11 * 60_000
    expect(refused(byBen())).toBe('accepted')
    const other = proven()
    other.must(
      other.submitSite({ type: 'hangTag', tagId: other.newId(), breakerId: other.breaker('1').id, lock: 'b', measure: '' }, crew.ben),
    )
    expect(refused(start(other, {}, crew.ben))).toBe('provenAlready')
    other.now += 121 * 60_000
    const old = other.box('door').proofId!
    expect(refused(other.submitSite({ type: 'witnessProof', proofId: old }, crew.ben))).toBe('proofExpired')
    expect(refused(start(other, {}, crew.ben))).toBe('accepted')
    expect(other.site.proofs[old]).toMatchObject({ status: 'void', voidWhy: { code: 'newProof' } })
  })
  test('ruling a feed out needs a licence', () => {
    const scenario = new Scenario()
    const drop = {
      type: 'setFeeds' as const,
      boxId: scenario.box('stair').id,
      breakerIds: [scenario.breaker('1').id],
      unknownFeed: false,
      basis: 'traced',
    }
    expect(refused(scenario.submitSite(drop, crew.ida))).toBe('licenceNeeded')
    expect(refused(scenario.submitSite(drop, crew.ann))).toBe('accepted')
  })
})

describe('sub-panel', () => {
  const file = {
    ...testFile,
    panels: [
      ...testFile.panels,
      {
        key: 'sub',
        name: 'loft panel',
        place: 'loft',
        main: null,
        otherMains: [],
        fedFrom: { panel: 'panel', breaker: '3' },
        alsoFedFrom: [],
        breakers: [
          { number: 'S1', poles: 1, amps: 15, label: '', state: 'closed' as const, offLimits: null, protection: 'unknown' as const },
        ],
      },
    ],
    boxes: [...testFile.boxes, { ...testFile.boxes[0]!, key: 'loft', name: 'loft', feeds: [{ panel: 'sub', breaker: 'S1' }] }],
  }
  test('a box is isolated at its own breaker or at the feeder; closing the feeder reaches it', () => {
    const scenario = new Scenario(file)
    scenario.openAndTag(['3'])
    expect(code(touch(scenario, 'loft'))).toBe('notProven')
    scenario.conductors('loft')
    scenario.prove('loft')
    expect(code(touch(scenario, 'loft'))).toBe('yes')
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('3').id, state: 'closed', note: '' }, crew.ben))
    expect(code(touch(scenario, 'loft'))).toBe('notIsolated')
  })
})

describe('once a box is closed up', () => {
  const next = (scenario: Scenario, who = crew.ann) => stepAfterClosing(scenario.site, scenario.box('door').id, who)
  test('tag off, leave, closed, tests; nothing offers to open it again', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    scenario.prove('door')
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
    expect(next(scenario)).toMatchObject({ kind: 'untag', breakerId: scenario.breaker('1').id, title: 'Take your tag off breaker 1' })
    // A mate has nothing to take off, and may not close over Ann's tag.
    expect(next(scenario, crew.ben)).toMatchObject({ kind: 'wait', title: 'Breaker 1 stays off' })
    scenario.takeTagsOff()
    expect(next(scenario).kind).toBe('askClose')
    expect(next(scenario, crew.ida).kind).toBe('wait')
    const grantId = scenario.newId()
    scenario.must(scenario.submitSite({ type: 'requestClose', grantId, breakerId: scenario.breaker('1').id }))
    expect(next(scenario)).toMatchObject({ kind: 'answer', id: grantId })
    scenario.must(scenario.submitSite({ type: 'answerPermit', grantId, answer: 'closed' }))
    expect(next(scenario).kind).toBe('test')
  })
  test('with another box open behind the same breaker the tag stays, and the other box is named', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1', '2'])
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('stair').id }))
    scenario.conductors('door')
    scenario.prove('door')
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
    expect(next(scenario)).toMatchObject({ kind: 'wait', boxId: scenario.box('stair').id, why: 'Stair is open behind it.' })
  })
})

describe('the rail and the next step', () => {
  test('PROVEN DEAD is for the person looking', () => {
    const scenario = proven()
    const tile = (who: Actor) => circuitTile(scenario.site, scenario.breaker('1'), who, vantage(scenario)).word
    expect([tile(crew.ann), tile(crew.ben)]).toEqual(['PROVEN DEAD', 'OPEN, NOT PROVEN'])
    expect(
      railFor(scenario.site, [scenario.box('stair').id], crew.ann, vantage(scenario)).map(
        (entry) => `${entry.breaker.number} ${entry.word}`,
      ),
    ).toEqual(['1 PROVEN DEAD', '2 LIVE'])
  })
  test('one thing after the other', () => {
    const scenario = new Scenario()
    const step = () => nextPowerStep(scenario.site, scenario.box('door').id, crew.ann, vantage(scenario)).kind
    const seen = [step()]
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', note: '' }))
    seen.push(step())
    scenario.must(
      scenario.submitSite({
        type: 'hangTag',
        tagId: scenario.newId(),
        breakerId: scenario.breaker('1').id,
        lock: `x ${scenario.newId()}`,
        measure: '',
      }),
    )
    seen.push(step())
    scenario.conductors('door')
    seen.push(step())
    scenario.prove('door')
    seen.push(step())
    expect(seen).toEqual(['open', 'tag', 'conductors', 'prove', 'work'])
  })
})
