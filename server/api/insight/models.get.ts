import { setResponseHeaders } from 'h3'
import { insight } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { insightCsv } from '../../services/insight'

export default defineRoute(insight.insightTable, async ({ event, viewer, query }) => {
  const text = await insightCsv(viewer, query.branchId)
  setResponseHeaders(event, { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="models.csv"' })
  return text
})
