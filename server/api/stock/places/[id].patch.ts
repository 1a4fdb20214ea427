import { stock } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { changePlace } from '../../../services/stock'

export default defineRoute(stock.changePlace, ({ viewer, params, body }) => changePlace(viewer, params.id, body))
