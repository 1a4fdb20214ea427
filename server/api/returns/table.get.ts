import { setResponseHeaders } from 'h3'
import { jobs } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { returnsCsv } from '../../services/returns'

export default defineRoute(jobs.returnsTable, async ({ event, viewer, query }) => {
  setResponseHeaders(event, { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="returns.csv"' })
  return returnsCsv(viewer, query.branchId)
})
