import { promises } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { chooseTime } from '../../../services/visit-pages'

export default defineRoute(promises.chooseTime, ({ params, body }) => chooseTime(params.token, body.offer))
