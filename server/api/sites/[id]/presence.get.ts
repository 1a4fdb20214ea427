import { sites } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { presentAt } from '../../../services/presence'

export default defineRoute(sites.whoIsThere, ({ viewer, params }) => presentAt(viewer, params.id))
