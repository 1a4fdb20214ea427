import { dispatch } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { dispatchWeek } from '../../services/dispatch-week'

export default defineRoute(dispatch.readWeek, ({ viewer, query }) => dispatchWeek(viewer, query.branchId, query.from))
