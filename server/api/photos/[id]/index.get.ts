import { jobs } from '../../../../core/protocol'
import { setResponseHeaders } from 'h3'
import { defineRoute } from '../../../http/route'
import { readPhoto } from '../../../services/photos'

export default defineRoute(jobs.readPhoto, async ({ event, viewer, params, query }) => {
  const photo = await readPhoto(viewer, params.id, query.size === 'small')
  setResponseHeaders(event, {
    'content-type': photo.mime,
    // Whoever logs out takes it along: kept by the program itself, never by the browser.
    'cache-control': 'no-store',
    'content-disposition': 'inline',
  })
  return photo.bytes
})
