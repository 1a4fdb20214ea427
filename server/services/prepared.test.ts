import { jest } from '@jest/globals'
import { inventedCode } from '../../core/testing/codes'
import { database } from '../database'
import { jobCommand, makeCompany, open, openWorld, uuid } from '../testing/world'
import { listCatalogue } from './catalogue'
import { readState } from './streams'
import { rebuildProjections } from './rebuild'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

test('a device that failed in the shop for one job goes into no wall of another, until it is tried again and good', async () => {
  const { lead } = await makeCompany()
  const model = (await listCatalogue(lead)).find(
    ({ kind, setupCode, schemes }) => kind === 'switch' && setupCode === 'openHome' && schemes.includes('na120'),
  )!
  const jobs = [await open(lead), await open(lead)]
  const place = async (jobId: string) => {
    const job = await readState('job', jobId)
    const [point] = Object.values(job.points)
    const { boxId, gang } = point!.controls[0]!
    const chosen = await jobCommand(lead, jobId, { type: 'chooseDevice', boxId, gang, modelId: model.id, pointIds: [point!.id] })
    expect(chosen).toMatchObject({ status: 'accepted' })
    return { boxId, gang }
  }
  const [first, second] = [await place(jobs[0]!.jobId), await place(jobs[1]!.jobId)]
  const seen = (lamp: 'passed' | 'failed') =>
    jobCommand(lead, jobs[0]!.jobId, {
      type: 'prepareUnit',
      ...first,
      serial: 'XY-1',
      setupCode: inventedCode(5),
      setupCodeAgain: '',
      carton: {},
      version: '',
      settings: '',
      lamp,
      power: 'none',
      meter: 'none',
      note: lamp === 'failed' ? 'hums at half' : '',
    })
  const install = () =>
    jobCommand(lead, jobs[1]!.jobId, {
      type: 'recordUnit',
      unitId: uuid(),
      ...second,
      serial: 'xy-1',
      setupCode: inventedCode(5),
      setupCodeAgain: '',
    })
  expect(await seen('failed')).toMatchObject({ status: 'accepted' })
  expect(await install()).toMatchObject({
    status: 'refused',
    refusal: { code: 'failedInShop', reasons: [expect.stringContaining('hums at half')] },
  })
  const rows = () => database().models.preparedUnits.findAll({ raw: true })
  const before = await rows()
  await rebuildProjections()
  expect(await rows()).toEqual(before)
  expect(await seen('passed')).toMatchObject({ status: 'accepted' })
  expect(await install()).toMatchObject({ status: 'accepted' })
})
