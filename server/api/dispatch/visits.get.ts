import { setResponseHeaders } from 'h3'
import { dispatch } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { visitsTable } from '../../services/day-files'

export default defineRoute(dispatch.visitsTable, async ({ event, viewer, query }) => {
  const text = await visitsTable(viewer, query)
  setResponseHeaders(event, {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': `attachment; filename="visits-${query.from}-${query.to}.csv"`,
  })
  return text
})
