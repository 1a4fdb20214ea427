import { setResponseHeaders } from 'h3'
import { idParam } from '../../http/params'
import { defineRoute } from '../../http/route'
import { readPhoto } from '../../services/jobs'

export default defineRoute(
  { summary: 'A picture of a job.', access: 'crew', params: idParam, answers: 'image/*' },
  async ({ event, viewer, params }) => {
    const photo = await readPhoto(viewer, params.id)
    setResponseHeaders(event, {
      'content-type': photo.mime,
      'cache-control': 'private, max-age=86400, immutable',
      'content-disposition': 'inline',
    })
    return photo.bytes
  },
)
