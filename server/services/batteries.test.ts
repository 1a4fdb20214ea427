import { jest } from '@jest/globals'
import { batteryDue } from '../../core/fit'
import { inventedCode } from '../../core/testing/codes'
import { testModel } from '../../core/testing/scenario'
import { database } from '../database'
import { jobCommand, makeCompany, open, openWorld, refusedWith, uuid } from '../testing/world'
import { listBatteries } from './batteries'
import { modelRow } from './catalogue'
import { rebuildProjections } from './rebuild'
import { readState } from './streams'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

test('what is due is listed with whom to call, by its record; a new battery takes it off, another company never sees it', async () => {
  const { lead } = await makeCompany()
  const rival = await makeCompany()
  const remote = { ...testModel, id: uuid(), name: 'remote', kind: 'companion' as const, terminals: ['ground' as const], batteryYears: 1 }
  await database().models.models.create(modelRow(lead.companyId, remote, true))
  const { jobId } = await open(lead)
  const [point] = Object.values((await readState('job', jobId)).points)
  const { boxId, gang } = point!.controls[0]!
  const unitId = uuid()
  const code = { setupCode: inventedCode(31), setupCodeAgain: '' }
  for (const command of [
    { type: 'chooseDevice' as const, boxId, gang, modelId: remote.id, pointIds: [point!.id] },
    { type: 'recordUnit' as const, unitId, boxId, gang, serial: 'RM-1', ...code },
  ])
    expect(await jobCommand(lead, jobId, command)).toMatchObject({ status: 'accepted' })
  const day = 86_400_000
  const [soon, before, after] = [200, 320, 400].map((days) => new Date(Date.now() + days * day))
  expect((await listBatteries(lead, undefined, soon)).batteries).toEqual([])
  const { batteries, more } = await listBatteries(lead, lead.branchId, before)
  expect(batteries).toMatchObject([
    { unitId, jobId, serial: 'RM-1', model: `${remote.maker} remote`, siteName: 'Test house', customer: 'C. Test' },
  ])
  expect(more).toBe(0)
  expect((await listBatteries(rival.lead, undefined, after)).batteries).toEqual([])
  expect(await refusedWith(listBatteries(rival.lead, lead.branchId))).toEqual([404, 'notFound'])
  // Made anew from the records it is the same.
  await rebuildProjections()
  expect((await listBatteries(lead, undefined, before)).batteries).toEqual(batteries)
  const today = new Date().toISOString().slice(0, 10)
  const id = uuid()
  const fit = { type: 'fitBattery' as const, unitId, battery: 'one CR2032', on: today }
  expect(await Promise.all([jobCommand(lead, jobId, fit, id), jobCommand(lead, jobId, fit, id)])).toMatchObject([
    { status: 'accepted' },
    { status: 'accepted' },
  ])
  const [row] = await database().models.units.findAll({ where: { id: unitId }, raw: true })
  expect(String(row!.batteryDue)).toBe(batteryDue(today, remote))
  expect(await jobCommand(lead, jobId, { ...fit, on: '2099-01-01' })).toMatchObject({ status: 'refused', refusal: { code: 'dayAhead' } })
})
