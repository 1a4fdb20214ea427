import { setResponseHeaders } from 'h3'
import { jobs } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { verificationPaper } from '../../../services/verification'

export default defineRoute(jobs.verificationPaper, async ({ event, viewer, params }) => {
  const { number, bytes } = await verificationPaper(viewer, params.id)
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="verification-${number}.pdf"` })
  return bytes
})
