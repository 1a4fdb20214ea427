import { jobs } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listReturns } from '../../services/returns'

export default defineRoute(jobs.listReturns, ({ viewer, query }) => listReturns(viewer, query.branchId))
