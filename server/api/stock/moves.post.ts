import { stock } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { moveStock } from '../../services/stock'

export default defineRoute(stock.moveStock, ({ viewer, body }) => moveStock(viewer, body))
