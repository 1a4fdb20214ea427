import { setResponseHeaders } from 'h3'
import { stock } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { reorderCsv, reorderList } from '../../services/stock'

export default defineRoute(stock.reorderList, async ({ event, viewer, query }) => {
  const lines = await reorderList(viewer, query.branchId)
  if (query.as === 'json') return { lines }
  setResponseHeaders(event, {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': 'attachment; filename="purchase-list.csv"',
  })
  return reorderCsv(lines)
})
