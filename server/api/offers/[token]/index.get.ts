import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { readOffer } from '../../../services/quotes'

export default defineRoute(sales.readOffer, ({ params }) => readOffer(params.token))
