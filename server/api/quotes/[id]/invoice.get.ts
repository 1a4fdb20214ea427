import { setResponseHeaders } from 'h3'
import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { invoiceCsv, invoiceOf } from '../../../services/quote-papers'

export default defineRoute(sales.quoteInvoice, async ({ event, viewer, params, query }) => {
  const invoice = await invoiceOf(viewer, params.id)
  const csv = query.as === 'csv'
  setResponseHeaders(event, {
    'content-type': csv ? 'text/csv; charset=utf-8' : 'application/json',
    'content-disposition': `attachment; filename="invoice-${invoice.number}.${csv ? 'csv' : 'json'}"`,
  })
  return csv ? invoiceCsv(invoice) : invoice
})
