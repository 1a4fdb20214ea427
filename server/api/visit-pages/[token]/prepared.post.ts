import { promises } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { tickPrepared } from '../../../services/visit-pages'

export default defineRoute(promises.tickPrepared, ({ params, body }) => tickPrepared(params.token, body.done))
