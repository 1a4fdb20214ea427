import { jobs } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { listBatteries } from '../services/batteries'

export default defineRoute(jobs.listBatteries, ({ viewer, query }) => listBatteries(viewer, query.branchId))
