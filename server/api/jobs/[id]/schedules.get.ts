import { jobs } from '../../../../core/protocol'
import { setResponseHeaders } from 'h3'
import { defineRoute } from '../../../http/route'
import { schedulesCalendar, schedulesSheet } from '../../../services/schedules'

export default defineRoute(jobs.readSchedules, async ({ event, viewer, params, query }) => {
  if (query.as === 'ics') {
    const { number, text } = await schedulesCalendar(viewer, params.id)
    setResponseHeaders(event, {
      'content-type': 'text/calendar; charset=utf-8',
      'content-disposition': `attachment; filename="schedules-${number}.ics"`,
    })
    return text
  }
  const { number, bytes } = await schedulesSheet(viewer, params.id)
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="schedules-${number}.pdf"` })
  return bytes
})
