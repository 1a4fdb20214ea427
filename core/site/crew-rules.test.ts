import { crew, Scenario } from '../testing/scenario'
import {
  atServer,
  decideLeave,
  isLeftSafe,
  canClose,
  canEnergise,
  canMeasure,
  canTouch,
  canTouchOffline,
  mayFeedUnrecorded,
  notYetClear,
  pinTypes,
  loneWorkOf,
  whyEnded,
} from './index'
import { siteCommandSchema } from './schemas'
import type { Actor } from '../stream'
import type { SiteState } from './state'

const vantage = (scenario: Scenario, later = 0) => atServer(new Date(scenario.now + later * 60_000).toISOString(), 120)
const code = (answer: { yes: boolean } & Partial<{ code: string }>) => (answer.yes ? 'yes' : answer.code)
const refused = (result: ReturnType<Scenario['submitSite']>) => (result.ok ? 'accepted' : result.refusal.code)
const touch = (scenario: Scenario, box: string, who: Actor = crew.ann) =>
  canTouch(scenario.site, scenario.box(box).id, who, vantage(scenario))

function proven(box = 'door', numbers = ['1'], who: Actor = crew.ann): Scenario {
  const scenario = new Scenario()
  scenario.openAndTag(numbers, who)
  scenario.conductors(box, 'ABC', who)
  scenario.prove(box, who)
  return scenario
}
const tag = (scenario: Scenario, number: string, who: Actor) =>
  scenario.must(
    scenario.submitSite(
      {
        type: 'hangTag',
        tagId: scenario.newId(),
        breakerId: scenario.breaker(number).id,
        lock: `${who.initials} blue ${scenario.newId()}`,
        measure: '',
      },
      who,
    ),
  )

test('a lever that the record has open and somebody opens had been closed meanwhile: what was proven behind it is void', () => {
  const scenario = proven()
  const again = (how: 'did' | 'found') =>
    scenario.must(
      scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', how, note: '' }, crew.ben),
    )
  expect(again('found')[0]!.payload).toMatchObject({ again: false, voids: [], alarms: [] })
  expect(code(touch(scenario, 'door'))).toBe('yes')
  const { proofId } = scenario.box('door')
  expect(again('did')[0]!.payload).toMatchObject({ again: true, voids: [proofId], alarms: [crew.ann.personId] })
  expect(touch(scenario, 'door')).toMatchObject({ yes: false })
  expect(whyEnded(scenario.site, scenario.site.proofs[proofId!]!.voidWhy!)).toBe('1 had been closed meanwhile.')
})

describe('power for a moment', () => {
  function asked(): { scenario: Scenario; askId: string } {
    const scenario = proven()
    tag(scenario, '1', crew.ben)
    scenario.must(scenario.submitSite({ type: 'witnessProof', proofId: scenario.box('door').proofId! }, crew.ben))
    const askId = scenario.newId()
    scenario.must(scenario.submitSite({ type: 'askEnergise', askId, breakerId: scenario.breaker('1').id, purpose: 'identify', note: '' }))
    return { scenario, askId }
  }
  const close = (scenario: Scenario, clearanceId: string | null, who: Actor = crew.ann) =>
    scenario.submitSite({ type: 'requestClose', grantId: scenario.newId(), breakerId: scenario.breaker('1').id, clearanceId }, who)
  test('everyone concerned says clear; their tags are suspended; only then it may close', () => {
    const { scenario, askId } = asked()
    expect(notYetClear(scenario.site, scenario.site.asks[askId]!).map((person) => person.initials)).toEqual(['AT', 'BT'])
    expect(refused(close(scenario, askId))).toBe('notClear')
    scenario.must(scenario.submitSite({ type: 'confirmClear', askId }))
    expect(code(touch(scenario, 'door'))).toBe('notIsolated')
    expect(code(touch(scenario, 'door', crew.ben))).toBe('yes')
    expect(canEnergise(scenario.site, askId, crew.ann)).toMatchObject({ yes: false, toYes: expect.arrayContaining(['BT says clear.']) })
    scenario.must(scenario.submitSite({ type: 'confirmClear', askId }, crew.ben))
    // The ordinary way stays shut while tags are suspended.
    expect(refused(close(scenario, null))).toBe('mayNotClose')
    const [granted] = scenario.must(close(scenario, askId))
    const { grantId } = granted!.payload as { grantId: string }
    expect(refused(scenario.submitSite({ type: 'takeBackClear', askId }, crew.ben))).toBe('alreadyGranted')
    scenario.must(scenario.submitSite({ type: 'answerPermit', grantId, answer: 'closed' }))
    expect(scenario.site.asks[askId]!.status).toBe('live')
    const mine = Object.values(scenario.site.tags).find((one) => one.personId === crew.ann.personId)!
    expect(refused(scenario.submitSite({ type: 'rehangTag', tagId: mine.id }))).toBe('notOpen')
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', note: '' }))
    expect(scenario.site.asks[askId]).toBeUndefined()
    scenario.must(scenario.submitSite({ type: 'rehangTag', tagId: mine.id }))
    // Hung again is not proven again.
    expect(code(touch(scenario, 'door'))).toBe('notProven')
    // Nobody is alarmed about what they said clear to.
    expect(scenario.site.alarms).toEqual({})
  })
  test('whoever says clear keeps their hands out even where only a secret feed could reach them', () => {
    const scenario = proven()
    scenario.must(
      scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('3').id, state: 'open', how: 'found', note: '' }, crew.ben),
    )
    const askId = scenario.newId()
    scenario.must(
      scenario.submitSite({ type: 'askEnergise', askId, breakerId: scenario.breaker('3').id, purpose: 'test', note: '' }, crew.ben),
    )
    expect(notYetClear(scenario.site, scenario.site.asks[askId]!).map((person) => person.initials)).toEqual(['AT'])
    scenario.must(scenario.submitSite({ type: 'confirmClear', askId }))
    expect(code(touch(scenario, 'door'))).toBe('saidClear')
    scenario.must(scenario.submitSite({ type: 'takeBackClear', askId }))
    expect(code(touch(scenario, 'door'))).toBe('yes')
  })
  test('an apprentice asks a licensed mate; a word from before the request does not count', () => {
    const { scenario, askId } = asked()
    expect(
      refused(
        scenario.submitSite(
          { type: 'askEnergise', askId: scenario.newId(), breakerId: scenario.breaker('1').id, purpose: 'test', note: '' },
          crew.ida,
        ),
      ),
    ).toBe('licenceNeeded')
    scenario.basedOnSeq = scenario.site.asks[askId]!.askedSeq - 1
    expect(refused(scenario.submitSite({ type: 'confirmClear', askId }, crew.ben))).toBe('lateWord')
  })
  test('given up: the request is over, suspended tags wait to be hung again', () => {
    const scenario = proven()
    const askId = scenario.newId()
    scenario.must(scenario.submitSite({ type: 'askEnergise', askId, breakerId: scenario.breaker('1').id, purpose: 'identify', note: '' }))
    scenario.must(scenario.submitSite({ type: 'confirmClear', askId }))
    const grantId = scenario.newId()
    scenario.must(scenario.submitSite({ type: 'requestClose', grantId, breakerId: scenario.breaker('1').id, clearanceId: askId }))
    scenario.must(scenario.submitSite({ type: 'answerPermit', grantId, answer: 'givenUp' }))
    expect(scenario.site.asks).toEqual({})
    expect(canClose(scenario.site, scenario.breaker('1').id, crew.ann)).toMatchObject({ yes: false })
    expect(refused(scenario.submitSite({ type: 'leaveSite' }))).toBe('tagsLeft')
  })
})

describe('labels lie', () => {
  test('what was off while a box was proven stays off until its prover steps back; what was on is known to be apart', () => {
    const scenario = new Scenario()
    scenario.must(
      scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('3').id, state: 'open', how: 'found', note: '' }),
    )
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const proofId = scenario.prove('door')
    expect(mayFeedUnrecorded(scenario.site, scenario.box('door'), scenario.breaker('3').id)).toBe(true)
    expect(mayFeedUnrecorded(scenario.site, scenario.box('door'), scenario.breaker('2').id)).toBe(false)
    expect(canClose(scenario.site, scenario.breaker('3').id, crew.ann)).toMatchObject({
      yes: false,
      reasons: [expect.stringContaining('Breaker 3 may feed it too')],
    })
    scenario.must(scenario.submitSite({ type: 'abandonProof', proofId, reason: 'step back' }))
    scenario.powerOn('3', crew.ben)
    scenario.prove('door')
    scenario.must(
      scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('3').id, state: 'open', how: 'did', note: '' }, crew.ben),
    )
    // Opened a moment after the proof: perhaps before its last reading. Ten minutes later it is sure.
    expect(mayFeedUnrecorded(scenario.site, scenario.box('door'), scenario.breaker('3').id)).toBe(true)
  })
  test('opened long after the proof, it stays ruled out; found open, it does not', () => {
    for (const [how, may] of [
      ['did', false],
      ['found', true],
    ] as const) {
      const scenario = proven()
      scenario.now += 30 * 60_000
      scenario.must(
        scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('3').id, state: 'open', how, note: '' }, crew.ben),
      )
      expect(mayFeedUnrecorded(scenario.site, scenario.box('door'), scenario.breaker('3').id)).toBe(may)
    }
  })
  test('an alarm that nobody answered keeps closed what could reach those hands', () => {
    const scenario = proven()
    scenario.must(
      scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('3').id, state: 'open', how: 'found', note: '' }, crew.ben),
    )
    scenario.must(
      scenario.submitSite({ type: 'observeLive', boxId: scenario.box('door').id, what: 'lightOn', volts: null, note: '' }, crew.ben),
    )
    expect(canClose(scenario.site, scenario.breaker('3').id, crew.ann)).toMatchObject({
      yes: false,
      reasons: expect.arrayContaining([expect.stringContaining('has not answered')]),
    })
    expect(refused(scenario.submitSite({ type: 'confirmStopped' }, crew.ben))).toBe('nothingToAnswer')
    scenario.must(scenario.submitSite({ type: 'confirmStopped' }))
    const [sign] = Object.values(scenario.site.signs)
    scenario.must(
      scenario.submitSite({ type: 'recordCause', signSeq: sign!.seq, cause: { kind: 'timer', note: 'photocell, taped' } }, crew.ben),
    )
    expect(canClose(scenario.site, scenario.breaker('3').id, crew.ann).yes).toBe(true)
  })
})

describe('readings in one go', () => {
  test('a sweep stores every pair with the highest of them; a voltage in it is refused', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1'])
    scenario.conductors('door', 'ABCDEF')
    const proofId = scenario.startProof('door')
    // Each against the reference, then against the neutral, which is B.
    const letters = [...'ABCDEF']
    const pairs = [...letters.map((a) => ({ a, b: 'REF' })), ...[...'ACDEF'].map((a) => ({ a, b: 'B' }))]
    const sweep = (highestVolts: number, over = {}) =>
      scenario.submitSite({ type: 'sweepReadings', proofId, pairs, impedance: 'low', highestVolts, ...over })
    expect(refused(sweep(1))).toBe('sweepNotDead')
    expect(refused(sweep(0.2, { pairs: [{ a: 'A', b: 'Z' }] }))).toBe('noSuchPair')
    scenario.must(sweep(0.2))
    scenario.must(scenario.seeReference(proofId, crew.ann, { again: true }))
    scenario.must(scenario.submitSite({ type: 'finishProof', proofId, volts: 240 }))
    expect(code(touch(scenario, 'door'))).toBe('yes')
    expect(scenario.site.proofs[proofId]!.readings.every((reading) => reading.sweep && reading.volts === 0.2)).toBe(true)
  })
  test('never more than 30 in one tap', () => {
    const pairs = Array.from({ length: 31 }, () => ({ a: 'A', b: 'B' }))
    const command = { type: 'sweepReadings', proofId: crew.ann.personId, impedance: 'low', highestVolts: 0 }
    expect(siteCommandSchema.safeParse({ ...command, pairs }).success).toBe(false)
    expect(siteCommandSchema.safeParse({ ...command, pairs: pairs.slice(1) }).success).toBe(true)
  })
})

describe('late words', () => {
  test('readings from before the last sign of power say nothing; a voltage among them is taken all the same', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const early = scenario.site.seq
    const [sign] = scenario.must(
      scenario.submitSite({ type: 'observeLive', boxId: scenario.box('door').id, what: 'lightOn', volts: null, note: '' }, crew.ben),
    )
    scenario.must(
      scenario.submitSite({ type: 'recordCause', signSeq: sign!.seq, cause: { kind: 'timer', note: 'photocell, taped' } }, crew.ben),
    )
    const proofId = scenario.startProof('door')
    scenario.basedOnSeq = early
    const read = (volts: number) => scenario.submitSite({ type: 'takeReading', proofId, a: 'A', b: 'REF', impedance: 'low', volts })
    expect(refused(read(0))).toBe('seenTooEarly')
    expect(refused(read(118))).toBe('accepted')
    expect(scenario.site.proofs[proofId]!.status).toBe('void')
    // Even after the proof has ended, a voltage is a fact.
    const again = scenario.must(read(118))
    expect(again[0]!.type).toBe('liveObserved')
  })
  test('a proof that waited on the phone is as old as its readings', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    scenario.heldMs = 90 * 60_000
    scenario.prove('door')
    expect(code(canTouch(scenario.site, scenario.box('door').id, crew.ann, vantage(scenario, 29)))).toBe('yes')
    expect(code(canTouch(scenario.site, scenario.box('door').id, crew.ann, vantage(scenario, 31)))).toBe('proofExpired')
  })
  test('“closed up” from before somebody opened the box again changes nothing', () => {
    const scenario = proven()
    const early = scenario.site.seq
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('door').id }, crew.ben))
    scenario.basedOnSeq = early
    expect(refused(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))).toBe('lateWord')
  })
})

describe('without network', () => {
  const offline = (known: SiteState, here: SiteState, scenario: Scenario, who: Actor = crew.ann) =>
    canTouchOffline(known, here, scenario.box('door').id, who, vantage(scenario))
  test('own acknowledged tags and an own proof the crew knows of', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    const proofId = scenario.startProof('door')
    const known = structuredClone(scenario.site)
    scenario.readAll(proofId)
    expect(code(offline(known, scenario.site, scenario))).toBe('notProven')
    scenario.must(scenario.submitSite({ type: 'finishProof', proofId, volts: 240 }))
    expect(code(offline(known, scenario.site, scenario))).toBe('yes')
  })
  test('a tag that was not acknowledged does not count', () => {
    const scenario = new Scenario()
    const known = structuredClone(scenario.site)
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    scenario.prove('door')
    expect(code(offline(known, scenario.site, scenario))).toBe('notIsolated')
  })
  test('begun without the crew knowing: only where nothing else can feed the box', () => {
    const scenario = new Scenario()
    scenario.openAndTag(['1'])
    const known = structuredClone(scenario.site)
    scenario.conductors('door')
    scenario.prove('door')
    expect(code(offline(known, scenario.site, scenario))).toBe('offlineUnannounced')
    const ruled = structuredClone(scenario.site)
    ruled.proofs = {}
    expect(code(offline(ruled, scenario.site, scenario))).toBe('yes')
  })
  test('a tag taken off here and hung again here protects only when the server has it', () => {
    const scenario = proven()
    const known = structuredClone(scenario.site)
    const [tagId] = Object.keys(known.tags)
    scenario.must(scenario.submitSite({ type: 'removeTag', tagId: tagId! }))
    tag(scenario, '1', crew.ann)
    scenario.prove('door')
    expect(code(touch(scenario, 'door'))).toBe('yes')
    expect(code(offline(known, scenario.site, scenario))).toBe('notIsolated')
  })
  test('a proof made after closing up here is another one than the crew knows of', () => {
    const scenario = proven()
    const known = structuredClone(scenario.site)
    known.boxes[scenario.box('door').id]!.ruledOut = {}
    scenario.must(scenario.submitSite({ type: 'closeBox', boxId: scenario.box('door').id }))
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('door').id }))
    scenario.prove('door')
    expect(code(offline(known, scenario.site, scenario))).toBe('offlineUnannounced')
  })
  test('an answer that never came: nothing is touched on the strength of this device', () => {
    const scenario = proven()
    const asking = { ...vantage(scenario), outcomeUnknown: true }
    const { id } = scenario.box('door')
    expect(canTouch(scenario.site, id, crew.ann, asking)).toMatchObject({ yes: false, code: 'outcomeUnknown' })
    expect(code(canTouchOffline(scenario.site, scenario.site, id, crew.ann, asking))).toBe('outcomeUnknown')
  })
  test('a mate’s proof does not count', () => {
    const scenario = proven()
    tag(scenario, '1', crew.ben)
    scenario.must(scenario.submitSite({ type: 'witnessProof', proofId: scenario.box('door').proofId! }, crew.ben))
    expect(code(touch(scenario, 'door', crew.ben))).toBe('yes')
    expect(code(offline(scenario.site, scenario.site, scenario, crew.ben))).toBe('offlineOwnProof')
  })
})

describe('measuring live', () => {
  const measure = (scenario: Scenario, warnedIds: string[], who: Actor = crew.ann) =>
    scenario.submitSite({ type: 'startMeasuring', measureId: scenario.newId(), boxId: scenario.box('stair').id, warnedIds }, who)
  test('a licensed person, a mate warned, the plate off, and for half an hour', () => {
    const scenario = new Scenario()
    const may = (who: Actor = crew.ann, later = 0) =>
      code(canMeasure(scenario.site, scenario.box('stair').id, who, vantage(scenario, later)))
    expect(may(crew.ida)).toBe('licenceNeeded')
    expect(may()).toBe('notAnnounced')
    expect(refused(measure(scenario, [crew.ben.personId]))).toBe('boxClosed')
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('stair').id }))
    expect(refused(measure(scenario, [crew.ben.personId], crew.ida))).toBe('licenceNeeded')
    expect(refused(measure(scenario, []))).toBe('nobodyWarned')
    const [event] = scenario.must(measure(scenario, [crew.ben.personId]))
    expect(event!.payload).toMatchObject({ asks: [crew.ben.personId] })
    expect([may(), may(crew.ann, 31)]).toEqual(['yes', 'announcedTooLongAgo'])
    // This does not permit touching.
    expect(touch(scenario, 'stair').yes).toBe(false)
  })
  test('not beside a mate who relies on a proof there', () => {
    const scenario = proven()
    scenario.must(
      scenario.submitSite(
        { type: 'startMeasuring', measureId: scenario.newId(), boxId: scenario.box('door').id, warnedIds: [crew.ann.personId] },
        crew.ben,
      ),
    )
    expect(code(canMeasure(scenario.site, scenario.box('door').id, crew.ben, vantage(scenario)))).toBe('mateInBox')
  })
})

describe('work that is stopped', () => {
  const stopped = (who = crew.ben) => {
    const scenario = new Scenario()
    scenario.openAndTag(['1'])
    scenario.conductors('door')
    scenario.prove('door')
    const stopId = scenario.newId()
    scenario.must(scenario.submitSite({ type: 'stopWork', stopId }, who))
    return { scenario, stopId }
  }
  test('everybody here is alarmed, nothing is touched, closed or measured; facts are still taken', () => {
    const { scenario } = stopped()
    const { id } = scenario.box('door')
    expect(Object.values(scenario.site.alarms).map((alarm) => [alarm.personId, alarm.what])).toEqual([[crew.ann.personId, 'workStopped']])
    expect(code(canTouch(scenario.site, id, crew.ann, vantage(scenario)))).toBe('workStopped')
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('3').id, state: 'open' }))
    const closing = scenario.submitSite({ type: 'requestClose', grantId: scenario.newId(), breakerId: scenario.breaker('3').id }, crew.ben)
    expect(closing).toMatchObject({ ok: false, refusal: { reasons: expect.arrayContaining(['Ben Test stopped the work here.']) } })
    expect(refused(scenario.submitSite({ type: 'stopWork', stopId: scenario.newId() }))).toBe('alreadyStopped')
  })
  test('anybody may stop it, without network and without a visit; it says what happened', () => {
    const { scenario, stopId } = stopped(crew.office)
    scenario.must(scenario.submitSite({ type: 'tellStop', stopId, what: 'shock', note: '' }, crew.ben))
    const answer = canTouch(scenario.site, scenario.box('door').id, crew.ann, vantage(scenario))
    expect(answer).toMatchObject({ yes: false, reasons: ['Dis Test stopped the work here: somebody got a shock.'] })
    // Nobody knows which circuit it was.
    expect(Object.values(scenario.site.proofs).map((proof) => proof.status)).toEqual(['void'])
  })
  test('it goes on by whoever stopped it, or a lead; the proof lives on, the alarm is answered', () => {
    const { scenario, stopId } = stopped()
    const goOn = { type: 'endStop' as const, stopId, note: 'a lamp had burst' }
    expect(refused(scenario.submitSite(goOn))).toBe('notYours')
    scenario.must(scenario.submitSite(goOn, crew.lead))
    expect(refused(scenario.submitSite(goOn, crew.ben))).toBe('noSuchStop')
    const touch = () => code(canTouch(scenario.site, scenario.box('door').id, crew.ann, vantage(scenario)))
    expect(touch()).toBe('alarmOpen')
    scenario.must(scenario.submitSite({ type: 'confirmStopped' }))
    expect(touch()).toBe('yes')
    const own = stopped()
    own.scenario.must(own.scenario.submitSite({ ...goOn, stopId: own.stopId }, crew.ben))
  })
  test('whoever stopped it is gone for good: their absence ends it', () => {
    const { scenario } = stopped()
    scenario.must(
      scenario.submitSite(
        {
          type: 'declareAbsent',
          personId: crew.ben.personId,
          reason: 'taken to hospital',
          leftBuildingVerified: true,
          explained: 'I saw the ambulance leave',
        },
        crew.lead,
      ),
    )
    scenario.must(scenario.submitSite({ type: 'confirmAbsent', personId: crew.ben.personId, household: null }))
    expect(scenario.site.stop).toBeUndefined()
  })
})

describe('working alone', () => {
  test('a contact instead of a mate; an overdue check-in stops what only works with one', () => {
    const scenario = new Scenario()
    expect(refused(scenario.submitSite({ type: 'startLoneWork', contact: 'Odo', everyMinutes: 30 }, crew.ida))).toBe('licenceNeeded')
    scenario.must(scenario.submitSite({ type: 'startLoneWork', contact: 'Odo at the office', everyMinutes: 30 }))
    scenario.must(scenario.submitSite({ type: 'openBox', boxId: scenario.box('stair').id }))
    scenario.must(
      scenario.submitSite({ type: 'startMeasuring', measureId: scenario.newId(), boxId: scenario.box('stair').id, warnedIds: [] }),
    )
    expect(loneWorkOf(scenario.site, crew.ann.personId, vantage(scenario, 29))).toEqual({ working: true, overdue: false })
    scenario.now += 31 * 60_000
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('3').id, state: 'open', note: '' }))
    expect(refused(scenario.submitSite({ type: 'requestClose', grantId: scenario.newId(), breakerId: scenario.breaker('3').id }))).toBe(
      'checkInDue',
    )
    scenario.must(scenario.submitSite({ type: 'checkIn' }))
    expect(refused(scenario.submitSite({ type: 'requestClose', grantId: scenario.newId(), breakerId: scenario.breaker('3').id }))).toBe(
      'accepted',
    )
  })
})

describe('a neutral splice', () => {
  const part = (scenario: Scenario, amps: number) => {
    const partId = scenario.newId()
    return {
      partId,
      result: scenario.submitSite({
        type: 'openNeutral',
        partId,
        boxId: scenario.box('door').id,
        what: 'three whites',
        basis: { kind: 'clamp', amps, loadsOn: true },
      }),
    }
  }
  test('is parted only without current, and its ends are tested before anybody reaches in', () => {
    const scenario = proven()
    expect(refused(part(scenario, 1.4).result)).toBe('neutralCarries')
    const { partId, result } = part(scenario, 0)
    scenario.must(result)
    expect(code(touch(scenario, 'door'))).toBe('partedUntested')
    scenario.must(
      scenario.submitSite({ type: 'testParted', partId, instrumentId: 'good', voltsHere: 0.1, voltsAway: 0.2, testerVolts: 240 }),
    )
    expect(code(touch(scenario, 'door'))).toBe('yes')
  })
  test('an end that carries voltage ends the proof', () => {
    const scenario = proven()
    const { partId, result } = part(scenario, 0)
    scenario.must(result)
    scenario.must(scenario.submitSite({ type: 'testParted', partId, instrumentId: 'good', voltsHere: 0, voltsAway: 117, testerVolts: 240 }))
    expect(code(touch(scenario, 'door'))).toBe('notProven')
  })
  test('with the partners open instead, each with the own tag', () => {
    const scenario = proven()
    const by = (numbers: string[]) =>
      scenario.submitSite({
        type: 'openNeutral',
        partId: scenario.newId(),
        boxId: scenario.box('door').id,
        what: 'whites',
        basis: { kind: 'partnersOpen', breakerIds: numbers.map((number) => scenario.breaker(number).id) },
      })
    expect(refused(by(['3']))).toBe('partnerNotOpen')
    expect(refused(by(['1']))).toBe('accepted')
  })
})

describe('the night, and who goes last', () => {
  test('bare ends: a mate who stays takes them over; the last one guards, closes or has the company’s lock hung', () => {
    const scenario = proven()
    tag(scenario, '1', crew.ben)
    scenario.takeTagsOff()
    const [left] = scenario.must(scenario.submitSite({ type: 'leaveSite' }))
    expect(left!.payload).toMatchObject({ handOver: { [scenario.box('door').id]: { initials: 'BT' } } })
    scenario.takeTagsOff(crew.ben)
    expect(refused(scenario.submitSite({ type: 'leaveSite' }, crew.ben))).toBe('boxOpen')
    const company = (over = {}) =>
      scenario.submitSite(
        {
          type: 'hangTag',
          tagId: scenario.newId(),
          breakerId: scenario.breaker('1').id,
          lock: 'company 7',
          measure: '',
          company: true,
          notice: '',
          ...over,
        },
        crew.ben,
      )
    expect(refused(company())).toBe('noNotice')
    scenario.must(company({ notice: 'Open box in the hall. Call the office.' }))
    expect(isLeftSafe(scenario.site, scenario.box('door'))).toBe(true)
    expect(decideLeave(scenario.site, crew.ben).ok).toBe(true)
    // It isolates nobody, and it closes nothing.
    expect(code(touch(scenario, 'door', crew.ben))).toBe('notIsolated')
    expect(canClose(scenario.site, scenario.breaker('1').id, crew.ann)).toMatchObject({ yes: false })
    const tagId = Object.values(scenario.site.tags).find((one) => one.company)!.id
    expect(refused(scenario.submitSite({ type: 'removeTag', tagId }, crew.ida))).toBe('licenceNeeded')
    expect(refused(scenario.submitSite({ type: 'removeTag', tagId }, crew.ann))).toBe('accepted')
  })
})

describe('absent people', () => {
  test('that it is closed anybody may say', () => {
    const scenario = new Scenario()
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', note: '' }))
    const grantId = scenario.newId()
    scenario.must(scenario.submitSite({ type: 'requestClose', grantId, breakerId: scenario.breaker('1').id }, crew.ben))
    scenario.must(scenario.submitSite({ type: 'answerPermit', grantId, answer: 'closed' }))
    expect(scenario.breaker('1').state).toBe('closed')
  })
  test('with a PIN on a mate’s device: tags, answers and witness, never a permit to close', () => {
    expect([...pinTypes].sort()).toEqual(
      [
        'abandonProof',
        'answerPermit',
        'checkIn',
        'confirmAbsent',
        'confirmClear',
        'confirmStopped',
        'rehangTag',
        'removeTag',
        'witnessProof',
      ].sort(),
    )
  })
})

describe('asking for a breaker to be opened', () => {
  test('is asked once, not for what must stay on, and ends when it is found open', () => {
    const scenario = new Scenario()
    const ask = () =>
      scenario.submitSite({
        type: 'askOpen',
        askId: scenario.newId(),
        breakerId: scenario.breaker('2').id,
        boxId: scenario.box('stair').id,
        note: '',
      })
    scenario.must(ask())
    expect(refused(ask())).toBe('alreadyAsked')
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('2').id, state: 'open', note: '' }, crew.ben))
    expect(scenario.site.asks).toEqual({})
    scenario.must(scenario.submitSite({ type: 'markOffLimits', breakerId: scenario.breaker('3').id, reason: 'seed vault fan' }, crew.lead))
    expect(
      refused(
        scenario.submitSite({ type: 'askOpen', askId: scenario.newId(), breakerId: scenario.breaker('3').id, boxId: null, note: '' }),
      ),
    ).toBe('offLimits')
  })
})
