import { sites } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { doorCodeOf } from '../../../services/codes'

export default defineRoute(sites.readDoorCode, ({ viewer, params, query }) => doorCodeOf(viewer, params.id, query.reason))
