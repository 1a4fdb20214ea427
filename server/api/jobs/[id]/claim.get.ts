import { setResponseHeaders } from 'h3'
import { jobs } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { claimPaper } from '../../../services/claim'

export default defineRoute(jobs.claimPaper, async ({ event, viewer, params, query }) => {
  const { name, bytes } = await claimPaper(viewer, params.id, query.serial, query.photos)
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="${name}"` })
  return bytes
})
