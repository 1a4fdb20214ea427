import { inventedCode } from '../../core/testing/codes'
import { testModel } from '../../core/testing/scenario'
import { database } from '../database'
import { modelRow } from '../services/catalogue'
import { readState } from '../services/streams'
import { book } from './visits'
import { jobCommand, makeCompany, open, uuid } from './world'

/** A home with one device in it, and its crew. */
export async function homeWithDevice() {
  const { lead, add } = await makeCompany()
  const anna = await add('technician')
  const { jobId, siteId } = await open(lead)
  await book(lead, jobId, [anna.personId], [8, 10])
  const [site, job] = await Promise.all([readState('site', siteId), readState('job', jobId)])
  const boxId = Object.keys(site.boxes)[0]!
  const modelId = uuid()
  await database().models.models.create(modelRow(lead.companyId, { ...testModel, id: modelId }, true))
  const pointIds = Object.values(job.points).flatMap(({ id, controls }) => (controls.some((one) => one.boxId === boxId) ? [id] : []))
  const code = inventedCode(Math.floor(Math.random() * 8000))
  for (const command of [
    { type: 'chooseDevice' as const, boxId, gang: 1, modelId, pointIds: pointIds.slice(0, 1) },
    { type: 'recordUnit' as const, unitId: uuid(), boxId, gang: 1, serial: 'SN-4711', setupCode: code, setupCodeAgain: code },
  ])
    expect(await jobCommand(anna, jobId, command)).toMatchObject({ status: 'accepted' })
  return { lead, anna, jobId, siteId, code }
}
