import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { declineOffer } from '../../../services/quotes'

export default defineRoute(sales.declineOffer, ({ params, body }) => declineOffer(params.token, body.reason))
