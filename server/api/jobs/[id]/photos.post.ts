import { jobs } from '../../../../core/protocol'
import { pictureLimitBytes } from '../../../../core/units/picture'
import { bodyWithin } from '../../../http/raw-body'
import { defineRoute } from '../../../http/route'
import { jobFor } from '../../../services/access'
import { ApiError } from '../../../services/errors'
import { storePhoto } from '../../../services/photos'

export default defineRoute(jobs.storePhoto, async ({ event, viewer, params, query }) => {
  const job = await jobFor(viewer, params.id)
  const bytes = await bodyWithin(event, pictureLimitBytes, 'A picture has at most 8 MB.')
  if (!bytes.length) throw new ApiError(400, 'empty', 'There is no picture in this request.')
  return storePhoto(viewer, job, bytes, query.id)
})
