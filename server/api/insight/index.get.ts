import { insight } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { readInsight } from '../../services/insight'

export default defineRoute(insight.readInsight, ({ viewer, query }) => readInsight(viewer, query.branchId))
