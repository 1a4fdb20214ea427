import { jobs } from '../../../core/protocol'
import { setResponseHeaders } from 'h3'
import { defineRoute } from '../../http/route'
import { readPhoto } from '../../services/photos'

export default defineRoute(jobs.readPhoto, async ({ event, viewer, params, query }) => {
  const photo = await readPhoto(viewer, params.id, query.size === 'small')
  setResponseHeaders(event, {
    'content-type': photo.mime,
    'cache-control': 'private, max-age=86400, immutable',
    'content-disposition': 'inline',
  })
  return photo.bytes
})
