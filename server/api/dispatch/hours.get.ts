import { setResponseHeaders } from 'h3'
import { dispatch } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { hoursTable } from '../../services/day-files'

export default defineRoute(dispatch.hoursTable, async ({ event, viewer, query }) => {
  const text = await hoursTable(viewer, query)
  setResponseHeaders(event, {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': `attachment; filename="hours-${query.from}-${query.to}.csv"`,
  })
  return text
})
