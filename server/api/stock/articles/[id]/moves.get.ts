import { stock } from '../../../../../core/protocol'
import { defineRoute } from '../../../../http/route'
import { stockHistory } from '../../../../services/stock'

export default defineRoute(stock.stockHistory, async ({ viewer, params }) => ({ moves: await stockHistory(viewer, params.id) }))
