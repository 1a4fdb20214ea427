import { setResponseHeaders } from 'h3'
import { dispatch } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { daySheet } from '../../services/day-files'

export default defineRoute(dispatch.daySheet, async ({ event, viewer, query }) => {
  const bytes = await daySheet(viewer, query)
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="day-${query.date}.pdf"` })
  return bytes
})
