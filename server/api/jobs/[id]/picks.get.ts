import { stock } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { pickList } from '../../../services/stock'

export default defineRoute(stock.pickList, ({ viewer, params }) => pickList(viewer, params.id))
