import { jobs } from '../../../../core/protocol'
import { getRequestHeader, readRawBody } from 'h3'
import { fileTypeFromBuffer } from 'file-type'
import { defineRoute } from '../../../http/route'
import { jobFor } from '../../../services/access'
import { ApiError } from '../../../services/errors'
import { photoLimitBytes, photoTypes, storePhoto } from '../../../services/photos'

export default defineRoute(jobs.storePhoto, async ({ event, viewer, params, query }) => {
  const job = await jobFor(viewer, params.id)
  if (Number(getRequestHeader(event, 'content-length') ?? 0) > photoLimitBytes)
    throw new ApiError(413, 'tooLarge', 'A picture has at most 8 MB.')
  const bytes = await readRawBody(event, false)
  if (!bytes?.length) throw new ApiError(400, 'empty', 'There is no picture in this request.')
  if (bytes.length > photoLimitBytes) throw new ApiError(413, 'tooLarge', 'A picture has at most 8 MB.')
  // What it says it is counts for nothing: the bytes decide.
  const type = await fileTypeFromBuffer(bytes)
  if (!type || !(photoTypes as readonly string[]).includes(type.mime))
    throw new ApiError(415, 'notAPicture', 'Only JPEG, PNG and WebP pictures are taken.')
  return storePhoto(viewer, job, bytes, type.mime, query.id)
})
