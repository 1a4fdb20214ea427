import { jest } from '@jest/globals'
import { inventedCode } from '../../core/testing/codes'
import { jobEnvelope, makeCompany, open, openWorld, refusedWith, uuid } from '../testing/world'
import { listCatalogue } from './catalogue'
import { learntDurations, visitDuration } from './durations'
import { execute } from './commands'
import { readState } from './streams'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

test('hours follow from what is left to do, and from visits of this branch that were ended; others see none of it', async () => {
  const { lead, add } = await makeCompany()
  const { jobId } = await open(lead)
  const first = await visitDuration(lead, jobId, { kind: 'install', people: [] })
  expect(first.visits).toBe(0)
  expect(first.low).toBeLessThan(first.minutes)
  expect(first.high).toBeGreaterThan(first.minutes)
  expect(first.parts.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['box', 'device', 'handover']))
  expect(await learntDurations(lead, lead.branchId)).toEqual({ visits: 0, kinds: [] })

  // A visit of two hours in which one device went in.
  const visitId = uuid()
  const at = (minutes: number) => new Date(Date.now() + minutes * 60_000)
  const give = async (command: Parameters<typeof jobEnvelope>[1], minutes: number) => {
    const envelope = { ...jobEnvelope(jobId, command), at: at(minutes).toISOString() }
    expect(await execute(envelope, lead, at(minutes))).toMatchObject({ status: 'accepted' })
  }
  const times = { startsAt: at(-125), endsAt: at(-5), windowFrom: at(-125), windowTo: at(-5) }
  const iso = Object.fromEntries(Object.entries(times).map(([key, value]) => [key, value.toISOString()])) as Record<
    keyof typeof times,
    string
  >
  const visit = { kind: 'install' as const, callbackId: null, alsoBooked: false, personIds: [lead.personId], ...iso }
  await give({ type: 'scheduleVisit', visitId, ...visit }, -130)
  await give({ type: 'arrive', visitId }, -125)
  const model = (await listCatalogue(lead)).find(
    ({ kind, setupCode, schemes }) => kind === 'switch' && setupCode === 'openHome' && schemes.includes('na120'),
  )!
  const [point] = Object.values((await readState('job', jobId)).points)
  const { boxId, gang } = point!.controls[0]!
  await give({ type: 'chooseDevice', boxId, gang, modelId: model.id, pointIds: [point!.id] }, -120)
  const unit = { unitId: uuid(), boxId, gang, serial: 'DU-1', setupCode: inventedCode(1), setupCodeAgain: '' }
  await give({ type: 'recordUnit', ...unit }, -60)
  expect((await learntDurations(lead, lead.branchId)).visits).toBe(0)
  await give({ type: 'finishVisit', visitId }, -5)
  const learnt = await learntDurations(lead, lead.branchId)
  expect(learnt.visits).toBe(1)
  expect(learnt.kinds.find(({ kind }) => kind === 'device')).toMatchObject({ seen: 1, baseMinutes: 16 })
  expect(learnt.kinds.every(({ minutes, baseMinutes }) => minutes >= baseMinutes)).toBe(true)
  expect((await visitDuration(lead, jobId, { kind: 'install', people: [lead.personId] })).visits).toBe(1)

  const { lead: rival } = await makeCompany()
  expect(await refusedWith(visitDuration(rival, jobId, { kind: 'install', people: [] }))).toEqual([404, 'notFound'])
  expect(await refusedWith(learntDurations(rival, lead.branchId))).toEqual([404, 'notFound'])
  expect((await visitDuration(await add('technician'), jobId, { kind: 'callback', people: [] })).parts.map(({ kind }) => kind)).toEqual([
    'arrive',
    'box',
    'diagnosis',
  ])
})
