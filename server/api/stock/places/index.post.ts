import { stock } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { addPlace } from '../../../services/stock'

export default defineRoute(stock.addPlace, ({ viewer, body }) => addPlace(viewer, body))
