import { sales } from '../../../core/protocol'
import { invoiceJsonSchema } from '../../../core/quote/invoice'
import { defineRoute } from '../../http/route'

export default defineRoute(sales.invoiceFormat, () => invoiceJsonSchema())
