import { setResponseHeaders } from 'h3'
import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { quotePaper } from '../../../services/quote-papers'
import { offerId } from '../../../services/quotes'

export default defineRoute(sales.offerPaper, async ({ event, params }) => {
  const { number, bytes } = await quotePaper(await offerId(params.token))
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="offer-${number}.pdf"` })
  return bytes
})
