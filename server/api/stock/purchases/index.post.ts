import { stock } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { orderParts } from '../../../services/stock'

export default defineRoute(stock.orderParts, ({ viewer, body }) => orderParts(viewer, body))
