import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { listQuotes } from '../../../services/quotes'

export default defineRoute(sales.listQuotes, async ({ viewer, params }) => ({ quotes: await listQuotes(viewer, params.id) }))
