import { sites } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { arriveAt } from '../../../services/presence'

export default defineRoute(sites.sayWhere, ({ viewer, params, body }) => arriveAt(viewer, params.id, body))
