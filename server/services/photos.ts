import { UniqueConstraintError } from 'sequelize'
import { v7 as uuid } from 'uuid'
import { database, transacted, type JobRow } from '../database'
import { isOffice, jobFor, type Viewer } from './access'
import { ApiError, notFound } from './errors'
import { lockedJob } from './locked-job'
import { drawnAnew, smallOf } from './picture'

/** More than a job of sixty boxes needs. */
const mostOfJob = 600

/** Whoever is, or was, on a visit of the job; the office; a guest of this job. */
async function isOfJob(viewer: Viewer, job: JobRow): Promise<boolean> {
  if (isOffice(viewer) || viewer.guestOf.some((id) => id === job.id || id === job.siteId)) return true
  return Boolean(
    await database().models.visitPeople.findOne({
      where: { personId: viewer.personId },
      include: [{ association: 'visit', where: { jobId: job.id }, attributes: ['id'] }],
    }),
  )
}

/** Stores a picture. A picture sent again under the id its device gave it is stored once. */
export async function storePhoto(viewer: Viewer, job: JobRow, given: Buffer, id: string = uuid()): Promise<{ id: string }> {
  const { photos, erasures } = database().models
  if (!(await isOfJob(viewer, job)))
    throw new ApiError(403, 'notOnCrew', 'You are not on a visit of this job. Ask the dispatcher to put you on it.')
  const stored = async () => {
    const known = await photos.findByPk(id, { attributes: ['jobId', 'uploadedBy'], raw: true })
    if (known && !(known.jobId === job.id && known.uploadedBy === viewer.personId))
      throw new ApiError(409, 'idTaken', 'Something else already has this id.')
    return known !== null
  }
  if (await stored()) return { id }
  // A device that was away sends it once more.
  if (await erasures.findOne({ where: { refId: id }, raw: true })) throw new ApiError(409, 'erased', 'This picture was erased.')
  if ((await photos.count({ where: { jobId: job.id } })) >= mostOfJob)
    throw new ApiError(409, 'tooManyPictures', `This job has ${mostOfJob} pictures, and takes no more.`)
  const picture = await drawnAnew(given)
  try {
    await transacted(async (transaction) => {
      // A job whose customer is being erased takes none.
      await lockedJob(job.id, transaction)
      const row = {
        ...{ id, companyId: job.companyId, branchId: job.branchId, jobId: job.id },
        ...{ ...picture, uploadedBy: viewer.personId, uploadedAt: new Date() },
      }
      await photos.create(row, { transaction })
    })
  } catch (error) {
    // The same one came twice at once.
    if (!(error instanceof UniqueConstraintError) || !(await stored())) throw error
  }
  return { id }
}

/** @param small as it is shown in a list: one of before there were such is made now, once */
export async function readPhoto(viewer: Viewer, photoId: string, small: boolean): Promise<{ mime: string; bytes: Buffer }> {
  const { photos } = database().models
  const attributes = ['id', 'jobId', 'mime', small ? 'small' : 'bytes']
  const photo = await photos.findOne({ where: { id: photoId, companyId: viewer.companyId }, attributes, raw: true })
  if (!photo) throw notFound('This picture')
  await jobFor(viewer, photo.jobId)
  if (!small) return photo
  if (photo.small) return { mime: 'image/jpeg', bytes: photo.small }
  const { bytes, mime } = (await photos.findByPk(photoId, { raw: true }))!
  try {
    const made = await smallOf(bytes)
    await photos.update({ small: made }, { where: { id: photoId } })
    return { mime: 'image/jpeg', bytes: made }
  } catch {
    // Stored before pictures were drawn anew, and broken: the whole is shown.
    return { mime, bytes }
  }
}
