import { jobs } from '../../../../core/protocol'
import { setResponseHeaders } from 'h3'
import { defineRoute } from '../../../http/route'
import { handoverPack } from '../../../services/pack'

export default defineRoute(jobs.readPack, async ({ event, viewer, params }) => {
  const { number, bytes } = await handoverPack(viewer, params.id)
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="handover-${number}.pdf"` })
  return bytes
})
