import { jobs } from '../../../../core/protocol'
import { getRequestURL, setResponseHeaders } from 'h3'
import { defineRoute } from '../../../http/route'
import { bagLabels } from '../../../services/bag-labels'

export default defineRoute(jobs.bagLabels, async ({ event, viewer, params }) => {
  const { number, bytes } = await bagLabels(viewer, params.id, getRequestURL(event).origin)
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="labels-${number}.pdf"` })
  return bytes
})
