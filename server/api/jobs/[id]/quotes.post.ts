import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { makeQuote } from '../../../services/quotes'

export default defineRoute(sales.makeQuote, ({ viewer, params, body }) => makeQuote(viewer, params.id, body))
