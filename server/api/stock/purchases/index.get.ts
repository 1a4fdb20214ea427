import { stock } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { listPurchases } from '../../../services/stock'

export default defineRoute(stock.listPurchases, async ({ viewer, query }) => ({ purchases: await listPurchases(viewer, query.branchId) }))
