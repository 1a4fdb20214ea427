import { insight } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { readWork } from '../../services/work-insight'

export default defineRoute(insight.readWork, ({ viewer, query }) => readWork(viewer, query.branchId))
