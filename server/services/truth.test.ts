import { jest } from '@jest/globals'
import { testFile } from '../../core/testing/scenario'
import { isSettled, pairStatuses, type SiteCommand } from '../../core/site'
import { database } from '../database'
import { jobCommand, makeCompany, open, openWorld, siteCommand, uuid } from '../testing/world'
import { jobFor, siteFor, viewerOf, type Viewer } from './access'
import { alarmsOf } from './alarms'
import { endForAbsent } from './absent'
import { addInstrument, changeInstrument } from './instruments'
import { addPerson, changePerson } from './people'
import { ApiError } from './errors'
import { knownHomes, openJob } from './intake'
import { linkHomes } from './home-links'
import { listJobs } from './job-lists'
import { jobPage } from './job-page'
import { reconcileSites } from './reconcile'
import { readState } from './streams'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const problem = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) => (error instanceof ApiError ? { status: error.status, code: error.code } : String(error)),
  )
const accepted = async (work: ReturnType<typeof siteCommand>) => {
  const outcome = await work
  if (outcome.status === 'refused') throw new Error(`${outcome.refusal.code}: ${outcome.refusal.reasons.join(' ')}`)
}
const breakerId = async (siteId: string, number: string) =>
  Object.values((await readState('site', siteId)).breakers).find((breaker) => breaker.number === number)!.id
const boxId = async (siteId: string, name: string) =>
  Object.values((await readState('site', siteId)).boxes).find((box) => box.name === name)!.id

async function visit(lead: Viewer, jobId: string, people: Viewer[], inDays = 0): Promise<string> {
  const at = (hours: number) => new Date(Date.now() + inDays * 86_400_000 + hours * 3_600_000).toISOString()
  const visitId = uuid()
  const times = { startsAt: at(-1), endsAt: at(3), windowFrom: at(-1), windowTo: at(1) }
  await jobCommand(lead, jobId, { type: 'scheduleVisit', visitId, kind: 'install', ...times, personIds: people.map((one) => one.personId) })
  return visitId
}
const tester = (lead: Viewer, over: object = {}) =>
  addInstrument(lead, {
    branchId: lead.branchId,
    name: 'Meter',
    serial: uuid().slice(0, 8),
    kind: 'both',
    calibrationDue: '2099-01-01',
    lowestStepVolts: null,
    ...over,
  })
async function prove(viewer: Viewer, siteId: string, instrumentId: string, box = 'door'): Promise<string> {
  const give = (command: { type: SiteCommand['type'] } & Record<string, unknown>) => accepted(siteCommand(viewer, siteId, command as never))
  const breaker = await breakerId(siteId, '1')
  const id = await boxId(siteId, box)
  const proofId = uuid()
  await give({ type: 'observeBreaker', breakerId: breaker, state: 'open' })
  await give({ type: 'hangTag', tagId: uuid(), breakerId: breaker, lock: 'red' })
  await give({ type: 'recordConductors', boxId: id, conductors: ['A', 'B', 'C'].map((letter) => ({ letter, colour: 'unknown' })) })
  await give({ type: 'startProof', proofId, boxId: id, instrumentId, source: { kind: 'provingUnit', name: 'unit' }, volts: 240 })
  const see = (again: boolean) =>
    give({
      type: 'seeReference',
      proofId,
      reference: 'wanderLead',
      letter: null,
      again,
      seen: { kind: 'continuity', ohms: 0.5, leadOhms: 0.3 },
    })
  await see(false)
  const state = await readState('site', siteId)
  const pairs = pairStatuses(state, state.boxes[id]!, state.proofs[proofId]!).filter((pair) => !isSettled(pair))
  await give({ type: 'sweepReadings', proofId, pairs: pairs.map(({ a, b }) => ({ a, b })), impedance: 'low', highestVolts: 0.1 })
  await see(true)
  await give({ type: 'finishProof', proofId, volts: 240 })
  return proofId
}
const proofOf = async (siteId: string, proofId: string) => (await readState('site', siteId)).proofs[proofId]!

describe('one home, one record', () => {
  test('the same address, however it is written, the customer’s telephone or the name: asked before a second record is begun', async () => {
    const { lead } = await makeCompany()
    const file = { ...testFile, customer: { name: 'M. Tide', phone: '+1 808 555 0142', email: '' } }
    const first = await open(lead, file)
    const take = (over: object, request: object = {}) =>
      openJob(
        { source: { kind: 'file', file: { ...file, ...over } }, branchId: lead.branchId, siteId: null, newHome: false, ...request },
        lead,
      )
    expect(await problem(take({}))).toEqual({ status: 409, code: 'knownHome' })
    const elsewhere = { name: 'Other', address: '1  TEST St.', customer: { name: 'X', phone: '', email: '' } }
    const same = { ...file, site: { ...file.site, ...elsewhere }, customer: elsewhere.customer }
    expect((await knownHomes(same, lead.companyId)).map((home) => home.why)).toEqual([['the same address']])
    const phone = {
      ...file,
      site: { ...file.site, name: 'Boat', address: '9 Quay' },
      customer: { name: 'T', phone: '(808) 555-0142', email: '' },
    }
    expect((await knownHomes(phone, lead.companyId)).map((home) => home.why)).toEqual([['the customer’s telephone']])
    // Another company's homes are never shown.
    const other = await makeCompany()
    expect(await knownHomes(file, other.lead.companyId)).toEqual([])
    const again = await take({}, { siteId: first.siteId })
    expect(again.siteId).toBe(first.siteId)
    expect((await take({}, { newHome: true })).siteId).not.toBe(first.siteId)
  })
})

describe('alarms are state', () => {
  test('they wait for their person on any device until answered, and the record says which device has shown one', async () => {
    const { lead, add } = await makeCompany()
    const [ann, ben] = await Promise.all([add('technician'), add('technician')])
    const { siteId, jobId } = await open(lead)
    await visit(lead, jobId, [ann, ben])
    await prove(ann, siteId, (await tester(lead)).id)
    await accepted(
      siteCommand(ben, siteId, { type: 'observeLive', boxId: await boxId(siteId, 'door'), what: 'meter', volts: 118, impedance: 'low' }),
    )
    expect(await alarmsOf(ann)).toMatchObject([
      { siteId, what: 'liveObserved', by: ben.name, place: 'door', siteName: 'Test house', shown: false },
    ])
    expect(await alarmsOf(ben)).toEqual([])
    await accepted(siteCommand(ann, siteId, { type: 'showAlarm' }))
    expect(await alarmsOf(ann)).toMatchObject([{ shown: true }])
    await accepted(siteCommand(ann, siteId, { type: 'confirmStopped' }))
    expect(await alarmsOf(ann)).toEqual([])
  })
})

describe('what ends in one place ends in every home', () => {
  test('a tester that fails at one home: out of service in the company, and its open proof at another home ends', async () => {
    const { lead, add } = await makeCompany()
    const [ann, ben] = await Promise.all([add('technician'), add('technician')])
    const { id } = await tester(lead)
    const [here, there] = [await open(lead), await open(lead)]
    await visit(lead, here.jobId, [ann])
    await visit(lead, there.jobId, [ben])
    const proofId = await prove(ben, there.siteId, id)
    const bad = uuid()
    // Begun with it at the first home; at its second check it is off, and on another source too.
    const breaker = await breakerId(here.siteId, '1')
    await accepted(siteCommand(ann, here.siteId, { type: 'observeBreaker', breakerId: breaker, state: 'open' }))
    await accepted(siteCommand(ann, here.siteId, { type: 'hangTag', tagId: uuid(), breakerId: breaker, lock: 'x' }))
    const door = await boxId(here.siteId, 'door')
    await accepted(
      siteCommand(ann, here.siteId, { type: 'recordConductors', boxId: door, conductors: [{ letter: 'A', colour: 'unknown' }] as never }),
    )
    const give = (command: Record<string, unknown>) => accepted(siteCommand(ann, here.siteId, command as never))
    const unit = { kind: 'provingUnit', name: 'unit' }
    await give({ type: 'startProof', proofId: bad, boxId: door, instrumentId: id, source: unit, volts: 240 })
    const seen = { kind: 'continuity', ohms: 0.4, leadOhms: 0.3 }
    await give({ type: 'seeReference', proofId: bad, reference: 'wanderLead', letter: null, seen, again: false })
    await give({ type: 'takeReading', proofId: bad, a: 'A', b: 'REF', impedance: 'low', volts: 0 })
    await give({ type: 'seeReference', proofId: bad, reference: 'wanderLead', letter: null, seen, again: true })
    await give({ type: 'finishProof', proofId: bad, volts: 30 })
    await give({ type: 'recheckTester', proofId: bad, source: { kind: 'provingUnit', name: 'other unit' }, volts: 20 })
    expect((await database().models.instruments.findByPk(id))!.outOfService).toBeTruthy()
    // At the other home it was last seen good when that proof was finished: what rests on it since then ends.
    expect((await proofOf(there.siteId, proofId)).status).toBe('void')
    expect(await alarmsOf(ben)).toMatchObject([{ what: 'instrumentFailed' }])
    // Only a lead brings it back: what was done, and good on two sources.
    const back = {
      done: 'new battery',
      checks: [
        { source: 'proving unit', volts: 240 },
        { source: 'office socket', volts: 121 },
      ],
    }
    expect(await problem(changeInstrument(await add('dispatcher', false), id, { backInService: back }))).toMatchObject({ status: 403 })
    await changeInstrument(lead, id, { backInService: back })
    await accepted(siteCommand(ben, there.siteId, { type: 'confirmStopped' }))
    const again = await siteCommand(ben, there.siteId, {
      type: 'startProof',
      proofId: uuid(),
      boxId: await boxId(there.siteId, 'door'),
      instrumentId: id,
      source: { kind: 'provingUnit', name: 'unit' },
      volts: 240,
    })
    expect(again.status).toBe('accepted')
  })
  test('a licence that is withdrawn, or somebody made apprentice, while their proof lives', async () => {
    const { lead, add } = await makeCompany()
    const ann = await add('technician')
    const { siteId, jobId } = await open(lead)
    await visit(lead, jobId, [ann])
    const proofId = await prove(ann, siteId, (await tester(lead)).id)
    await changePerson(lead, ann.personId, { role: 'apprentice' })
    expect(await proofOf(siteId, proofId)).toMatchObject({ status: 'void', voidWhy: { code: 'nobodyLicensed' } })
    // Once more, as at a start of the server: nothing is left to say.
    const { seq } = await readState('site', siteId)
    await reconcileSites(lead.companyId)
    expect((await readState('site', siteId)).seq).toBe(seq)
    // Nobody gives such a command by hand.
    const byHand = siteCommand(lead, siteId, { type: 'notePerson', personId: ann.personId, licensed: true, role: 'lead', active: true })
    expect(await problem(byHand)).toEqual({ status: 403, code: 'notByHand' })
  })
  test('two people of one company never share initials', async () => {
    const { lead } = await makeCompany()
    const person = {
      branchId: lead.branchId,
      name: 'Lo Lee',
      login: `lo-${uuid().slice(0, 8)}`,
      role: 'technician' as const,
      licensed: true,
      password: 'otter-lamp-and-quay',
    }
    expect(await problem(addPerson(lead, { ...person, initials: 'LL' }))).toEqual({ status: 409, code: 'initialsTaken' })
    expect(await problem(addPerson(lead, { ...person, initials: 'LLE' }))).toBeNull()
  })
})

describe('who is there', () => {
  test('only somebody on a visit of today witnesses: not a lead without one, not a technician due next month', async () => {
    const { lead, add } = await makeCompany()
    const [ida, next, ben] = await Promise.all([add('apprentice', false), add('technician'), add('technician')])
    const { siteId, jobId } = await open(lead)
    await visit(lead, jobId, [ida, ben])
    await visit(lead, jobId, [next], 30)
    const proofId = await prove(ida, siteId, (await tester(lead)).id)
    for (const who of [lead, next])
      expect(await siteCommand(who, siteId, { type: 'witnessProof', proofId })).toMatchObject({ refusal: { code: 'notOnVisit' } })
    await accepted(siteCommand(ben, siteId, { type: 'witnessProof', proofId }))
  })
  test('a visit is not moved off or cancelled under hanging tags, whether or not anybody pressed “arrived”', async () => {
    const { lead, add } = await makeCompany()
    const ann = await add('technician')
    const { siteId, jobId } = await open(lead)
    const visitId = await visit(lead, jobId, [ann])
    await prove(ann, siteId, (await tester(lead)).id)
    expect(await jobCommand(lead, jobId, { type: 'cancelVisit', visitId, reason: 'rain' })).toMatchObject({
      refusal: { code: 'leftBehind' },
    })
    const tomorrow = (hours: number) => new Date(Date.now() + (24 + hours) * 3_600_000).toISOString()
    const times = { startsAt: tomorrow(0), endsAt: tomorrow(2), windowFrom: tomorrow(0), windowTo: tomorrow(1) }
    const move = await jobCommand(lead, jobId, { type: 'moveVisit', visitId, ...times, personIds: [ann.personId] })
    expect(move).toMatchObject({ refusal: { code: 'leftBehind' } })
  })
  test('a helper from another branch sees that job and home for as long as the visit or their tag is there, and no other', async () => {
    const { lead, add } = await makeCompany()
    const { id: branchId } = await database().models.branches.create({
      id: uuid(),
      companyId: lead.companyId,
      name: 'Two',
      schemeId: 'na120',
      timezone: 'UTC',
      settings: {},
    })
    const helper = await add('technician', true, branchId)
    const [{ siteId, jobId }, other] = [await open(lead), await open(lead)]
    const now = async () => viewerOf((await database().models.people.findByPk(helper.personId))!)
    expect(await problem(jobFor(await now(), jobId))).toMatchObject({ status: 404 })
    const visitId = await visit(lead, jobId, [helper])
    const guest = await now()
    expect((await jobFor(guest, jobId)).id).toBe(jobId)
    expect((await siteFor(guest, siteId)).id).toBe(siteId)
    expect((await listJobs(guest, {})).map((job) => job.id)).toEqual([jobId])
    expect(await problem(jobFor(guest, other.jobId))).toMatchObject({ status: 404 })
    const breaker = await breakerId(siteId, '2')
    await accepted(siteCommand(guest, siteId, { type: 'observeBreaker', breakerId: breaker, state: 'open' }))
    const tagId = uuid()
    await accepted(siteCommand(guest, siteId, { type: 'hangTag', tagId, breakerId: breaker, lock: 'blue' }))
    // The visit is over for them, but the tag still hangs: they can take it off.
    await database().models.visits.update({ status: 'done' }, { where: { id: visitId } })
    await accepted(siteCommand(await now(), siteId, { type: 'removeTag', tagId }))
    expect(await problem(siteFor(await now(), siteId))).toMatchObject({ status: 404 })
  })
  test('the only lead is gone: the host ends what they left, with a second person named', async () => {
    const { lead, add } = await makeCompany()
    const ben = await add('technician')
    const { siteId } = await open(lead)
    await prove(lead, siteId, (await tester(lead)).id)
    const login = async (viewer: Viewer) => (await database().models.people.findByPk(viewer.personId))!.login
    const asked = { site: 'Test house', login: await login(lead), how: 'phoned, sits on the ferry', confirmedBy: await login(ben) }
    expect(await endForAbsent(asked)).toContain('was ended')
    expect((await readState('site', siteId)).tags).toEqual({})
    await add('lead')
    expect(await problem(endForAbsent(asked))).toEqual({ status: 409, code: 'leadThere' })
  })
})

describe('one home on record twice', () => {
  test('a permit to close by one record waits for the tags and boxes of the other; said to be another home, it does not', async () => {
    const { lead } = await makeCompany()
    const first = await open(lead, testFile)
    const second = await openJob({ source: { kind: 'file', file: testFile }, branchId: lead.branchId, siteId: null, newHome: true }, lead)
    for (const { jobId } of [first, second]) await visit(lead, jobId, [lead])
    const [here, there] = [await breakerId(first.siteId, '1'), await breakerId(second.siteId, '1')]
    const opened = (siteId: string, id: string) =>
      accepted(siteCommand(lead, siteId, { type: 'observeBreaker', breakerId: id, state: 'open' } as never))
    await opened(first.siteId, here)
    await opened(second.siteId, there)
    await accepted(siteCommand(lead, second.siteId, { type: 'hangTag', tagId: uuid(), breakerId: there, lock: 'red' } as never))
    const close = () =>
      siteCommand(lead, first.siteId, { type: 'requestClose', grantId: uuid(), breakerId: here, clearanceId: null } as never)
    expect(await close()).toMatchObject({ status: 'refused', refusal: { code: 'otherRecord' } })
    expect((await jobPage(lead, first.jobId)).site.otherRecords).toMatchObject([{ id: second.siteId, said: null }])
    // A stranger says nothing of it, and nobody says that a record is itself.
    const stranger = (await makeCompany()).lead
    expect(await problem(linkHomes(stranger, first.siteId, { otherId: second.siteId, said: 'other' }))).toMatchObject({ status: 404 })
    expect(await problem(linkHomes(lead, first.siteId, { otherId: first.siteId, said: 'other' }))).toMatchObject({ status: 422 })
    await linkHomes(lead, first.siteId, { otherId: second.siteId, said: 'same' })
    expect(await close()).toMatchObject({ status: 'refused' })
    await linkHomes(lead, second.siteId, { otherId: first.siteId, said: 'other' })
    await accepted(close())
    await linkHomes(lead, second.siteId, { otherId: first.siteId, said: 'same' })
    // With leave out by one record, nothing is begun by the other.
    expect(
      await siteCommand(lead, second.siteId, { type: 'hangTag', tagId: uuid(), breakerId: there, lock: 'blue' } as never),
    ).toMatchObject({
      status: 'refused',
      refusal: { code: 'otherRecord' },
    })
  })
})
