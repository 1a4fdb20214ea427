import { dispatch } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { dispatchDay } from '../../services/dispatch-day'

export default defineRoute(dispatch.readDay, ({ viewer, query }) => dispatchDay(viewer, query.branchId, query.date))
