import { setResponseHeaders } from 'h3'
import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { quotePaper } from '../../../services/quote-papers'
import { quoteFor } from '../../../services/quotes'

export default defineRoute(sales.quotePaper, async ({ event, viewer, params }) => {
  const { number, bytes } = await quotePaper((await quoteFor(viewer, params.id)).id)
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="offer-${number}.pdf"` })
  return bytes
})
