import { jest } from '@jest/globals'
import Papa from 'papaparse'
import { inventedCode } from '../../core/testing/codes'
import { testModel } from '../../core/testing/scenario'
import { jobCommand, makeCompany, open, openWorld, refusedWith, uuid } from '../testing/world'
import { homeWithDevice } from '../testing/one-device'
import { addBranch } from './branches'
import { modelRow } from './catalogue'
import { claimPaper } from './claim'
import { database } from '../database'
import { rebuildProjections } from './rebuild'
import { callbackStory, listReturns, returnsCsv } from './returns'
import { readState } from './streams'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

/** A device that hums before it ever saw a wall. */
async function failedInShop() {
  const { lead, add } = await makeCompany()
  const model = { ...testModel, id: uuid() }
  await database().models.models.create(modelRow(lead.companyId, model, true))
  const { jobId } = await open(lead)
  const [point] = Object.values((await readState('job', jobId)).points)
  const { boxId, gang } = point!.controls[0]!
  await jobCommand(lead, jobId, { type: 'chooseDevice', boxId, gang, modelId: model.id, pointIds: [point!.id] })
  const tried = { carton: {}, version: '1.2', settings: '', lamp: 'failed' as const, power: 'none' as const, meter: 'none' as const }
  const code = { setupCode: inventedCode(7), setupCodeAgain: '' }
  expect(
    await jobCommand(lead, jobId, { type: 'prepareUnit', boxId, gang, serial: 'XY-7', ...code, ...tried, note: '=hums at half' }),
  ).toMatchObject({ status: 'accepted' })
  return { lead, add, jobId, model }
}
const follow = { type: 'followReturn' as const, serial: 'XY-7', goes: 'return' as const, cleared: null, creditCents: null, note: '' }

test('what is out is listed by its day with nobody saying so, follows its record, and is the same when it is made anew', async () => {
  const { lead, add, jobId, model } = await failedInShop()
  const { devices } = await listReturns(lead, undefined)
  expect(devices).toMatchObject([
    { jobId, serial: 'XY-7', model: `${model.maker} ${model.name}`, goes: 'return', stage: 'waits', outcome: null },
  ])
  const sent = { ...follow, stage: 'sent' as const, dueOn: '2099-01-01', cleared: 'neverJoined' as const, reference: 'R 9', outcome: null }
  const technician = await add('technician')
  expect(await jobCommand(technician, jobId, sent)).toMatchObject({ status: 'refused' })
  const id = uuid()
  const twice = await Promise.all([jobCommand(lead, jobId, sent, id), jobCommand(lead, jobId, sent, id)])
  expect(twice).toMatchObject([{ status: 'accepted' }, { status: 'accepted' }])
  expect((await listReturns(lead, undefined)).devices).toMatchObject([{ stage: 'sent', dueOn: '2099-01-01', reference: 'R 9' }])
  const rows = () => database().models.devicesOut.findAll({ raw: true, order: ['jobId', 'serial'] })
  const before = await rows()
  await rebuildProjections()
  expect(await rows()).toEqual(before)
  // As a table for the maker: what somebody wrote is no formula, and no home is named.
  const table = await returnsCsv(lead, undefined)
  const [line] = Papa.parse<Record<string, string>>(table.replace('\ufeff', ''), { header: true }).data
  expect(line).toMatchObject({ maker: model.maker, serial: 'XY-7', reference: 'R 9', state: 'sent', due: '2099-01-01', days_in_wall: '' })
  expect(line!.symptom).toMatch(/^'=hums/)
  const { siteId } = await readState('job', jobId)
  const site = await database().models.sites.findByPk(siteId)
  for (const told of [site!.name, site!.address]) expect(table).not.toContain(told)
  expect(await jobCommand(lead, jobId, { ...follow, stage: 'settled', dueOn: null, outcome: 'replaced', reference: 'R 9' })).toMatchObject({
    status: 'accepted',
  })
  expect((await listReturns(lead, undefined)).devices).toMatchObject([{ stage: 'settled', outcome: 'replaced' }])
})

test('a claim is for a device that is out and for people of the job; strangers get neither list, paper nor story', async () => {
  const { lead, jobId } = await failedInShop()
  const { bytes, name } = await claimPaper(lead, jobId, 'XY-7', [])
  expect([bytes.subarray(0, 5).toString(), name]).toEqual(['%PDF-', 'claim-XY-7.pdf'])
  expect(await refusedWith(claimPaper(lead, jobId, 'XY-8', []))).toEqual([404, 'notFound'])
  const rival = await makeCompany()
  expect((await listReturns(rival.lead, undefined)).devices).toEqual([])
  expect(await refusedWith(listReturns(rival.lead, lead.branchId))).toEqual([404, 'notFound'])
  expect(await refusedWith(claimPaper(rival.lead, jobId, 'XY-7', []))).toEqual([404, 'notFound'])
  expect(await refusedWith(callbackStory(rival.lead, jobId, uuid()))).toEqual([404, 'notFound'])
  expect(await refusedWith(callbackStory(lead, jobId, uuid()))).toEqual([404, 'notFound'])
})

test('the story of a callback tells what came before it, and a technician reads of no other branch’s homes', async () => {
  const { lead, anna, jobId, siteId } = await homeWithDevice()
  const job = await readState('job', jobId)
  const [unit] = Object.values(job.units)
  const callbackId = uuid()
  const signs = { offlineInApp: false, wallSwitchFlipped: false, routerChanged: false, breakerTripped: false }
  expect(
    await jobCommand(lead, jobId, {
      type: 'openCallback',
      callbackId,
      unitId: unit!.id,
      what: 'dead at the wall',
      since: '2026-11-01',
      ...signs,
      call: null,
    }),
  ).toMatchObject({ status: 'accepted' })
  expect(await callbackStory(anna, jobId, callbackId)).toEqual({ says: [], place: [], home: [], model: [] })
  // Three of the same model failed in one way, in a branch that she does not see; one came out of this very gang.
  const elsewhere = await open(lead)
  const { models } = database()
  const branchId = (await addBranch(lead, { name: 'Far', schemeId: 'na120', timezone: 'UTC' } as never)).id
  await models.jobs.update({ branchId }, { where: { id: elsewhere.jobId } })
  const model = `${unit!.model.maker} ${unit!.model.name}`
  const old = async (where: { jobId: string; siteId: string; branchId: string }, boxId: string, gang: number) => {
    const base = { ...where, companyId: lead.companyId }
    const id = uuid()
    const times = { installedAt: new Date(Date.now() - 9e9), removedAt: new Date(Date.now() - 1e9) }
    await models.units.create({ ...base, id, boxId, gang, place: '', model, name: '', serial: id, removedTo: 'return', ...times })
    const found = { status: 'closed', causeKind: 'device', remedy: 'replace', causeId: 'relayStuck', cause: 'The relay sticks.' }
    const at = { openedAt: new Date(Date.now() - 2e9), closedAt: new Date(Date.now() - 1e9) }
    await models.callbacks.create({
      ...base,
      id: uuid(),
      unitId: id,
      what: 'dead',
      ...found,
      ...at,
      payer: 'maker',
      callBackOn: null,
      danger: false,
      said: null,
    })
  }
  for (let count = 0; count < 3; count++) await old({ ...elsewhere, branchId }, uuid(), 1)
  await old({ jobId, siteId, branchId: lead.branchId }, unit!.boxId, unit!.gang)
  const office = await callbackStory(lead, jobId, callbackId)
  expect([office.says.length, office.place.length, office.model.length]).toEqual([2, 1, 3])
  const crew = await callbackStory(anna, jobId, callbackId)
  expect([crew.says, crew.place.length, crew.model]).toEqual([office.says, 1, []])
})

test('a loan device that is back in stock goes into the next wall; one that is still out, or in a wall, does not', async () => {
  const { lead, jobId, siteId } = await homeWithDevice()
  const next = await open(lead)
  const job = await readState('job', next.jobId)
  const boxId = Object.keys((await readState('site', next.siteId)).boxes)[0]!
  const { models } = database()
  const modelId = (await models.models.findOne({ where: { companyId: lead.companyId }, raw: true }))!.id
  const pointIds = Object.values(job.points).flatMap(({ id, controls }) => (controls.some((one) => one.boxId === boxId) ? [id] : []))
  await jobCommand(lead, next.jobId, { type: 'chooseDevice', boxId, gang: 1, modelId, pointIds: pointIds.slice(0, 1) })
  const install = () => {
    const code = { setupCode: inventedCode(31), setupCodeAgain: inventedCode(31) }
    return jobCommand(lead, next.jobId, { type: 'recordUnit', unitId: uuid(), boxId, gang: 1, serial: 'SN-4711', ...code })
  }
  const taken = { status: 'refused', refusal: { code: 'serialInUse' } }
  expect(await install()).toMatchObject(taken)
  // As its own job leaves it: out, then back.
  await models.units.update({ removedAt: new Date(), removedTo: 'loan' }, { where: { companyId: lead.companyId, serial: 'SN-4711' } })
  expect(await install()).toMatchObject(taken)
  const out = {
    companyId: lead.companyId,
    branchId: lead.branchId,
    jobId,
    siteId,
    serial: 'SN-4711',
    callbackId: null,
    model: 'x',
    goes: 'loan' as const,
  }
  await models.devicesOut.create({
    ...out,
    stage: 'settled',
    dueOn: null,
    reference: '',
    outcome: 'inStock',
    creditCents: null,
    outAt: new Date(),
  })
  expect(await install()).toMatchObject({ status: 'accepted' })
  // In one wall at a time, whatever the records say.
  await expect(
    models.units.update({ removedAt: null }, { where: { companyId: lead.companyId, jobId, serial: 'SN-4711' } }),
  ).rejects.toThrow()
})
