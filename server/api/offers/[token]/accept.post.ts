import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { acceptOffer } from '../../../services/quotes'

export default defineRoute(sales.acceptOffer, ({ params, body }) => acceptOffer(params.token, body))
