import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { withdrawQuote } from '../../../services/quotes'

export default defineRoute(sales.withdrawQuote, ({ viewer, params, body }) => withdrawQuote(viewer, params.id, body.reason))
