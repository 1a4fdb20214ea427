import { jobs } from '../../../../core/protocol'
import { setResponseHeaders } from 'h3'
import { publicOrigin } from '../../../http/public-origin'
import { defineRoute } from '../../../http/route'
import { bagLabels } from '../../../services/bag-labels'

export default defineRoute(jobs.bagLabels, async ({ event, viewer, params }) => {
  const { number, bytes } = await bagLabels(viewer, params.id, publicOrigin(event))
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="labels-${number}.pdf"` })
  return bytes
})
