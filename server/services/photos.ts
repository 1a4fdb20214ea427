import { v7 as uuid } from 'uuid'
import { database, type JobRow } from '../database'
import { jobFor, type Viewer } from './access'
import { ApiError, notFound } from './errors'

export const photoLimitBytes = 8 * 1024 * 1024
export const photoTypes = ['image/jpeg', 'image/png', 'image/webp'] as const

/** Stores a picture. A picture sent again under the id its device gave it is stored once. */
export async function storePhoto(viewer: Viewer, job: JobRow, bytes: Buffer, mime: string, id: string = uuid()): Promise<{ id: string }> {
  const known = await database().models.photos.findByPk(id, { attributes: ['jobId', 'uploadedBy'], raw: true })
  if (known?.jobId === job.id && known.uploadedBy === viewer.personId) return { id }
  if (known) throw new ApiError(409, 'idTaken', 'Something else already has this id.')
  await database().models.photos.create({
    id,
    companyId: job.companyId,
    branchId: job.branchId,
    jobId: job.id,
    mime,
    bytes,
    uploadedBy: viewer.personId,
    uploadedAt: new Date(),
  })
  return { id }
}
export async function readPhoto(viewer: Viewer, photoId: string): Promise<{ mime: string; bytes: Buffer }> {
  const photo = await database().models.photos.findOne({ where: { id: photoId, companyId: viewer.companyId } })
  if (!photo) throw notFound('This picture')
  await jobFor(viewer, photo.jobId)
  return photo
}
