import { jobs } from '../../../../core/protocol'
import { setResponseHeaders } from 'h3'
import { defineRoute } from '../../../http/route'
import { nameLabels } from '../../../services/name-labels'

export default defineRoute(jobs.nameLabels, async ({ event, viewer, params }) => {
  const { number, bytes } = await nameLabels(viewer, params.id)
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="names-${number}.pdf"` })
  return bytes
})
