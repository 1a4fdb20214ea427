import { insight } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { readFailures } from '../../services/insight'

export default defineRoute(insight.readFailures, ({ viewer, query }) => readFailures(viewer, query.branchId, query.model))
