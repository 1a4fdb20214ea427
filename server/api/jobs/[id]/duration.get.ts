import { dispatch } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { visitDuration } from '../../../services/durations'

export default defineRoute(dispatch.readDuration, ({ viewer, params, query }) => visitDuration(viewer, params.id, query))
