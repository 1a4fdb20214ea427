import { dispatch } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { placeHome } from '../../../services/dispatch-day'

export default defineRoute(dispatch.placeHome, ({ viewer, params, body }) => placeHome(viewer, params.id, body.position))
