import { stock } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { readStock } from '../../services/stock'

export default defineRoute(stock.readStock, ({ viewer, query }) => readStock(viewer, query.branchId))
