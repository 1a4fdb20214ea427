import { jobs } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { listCallbacks } from '../services/job-lists'

export default defineRoute(jobs.listCallbacks, async ({ viewer, query }) => ({
  callbacks: await listCallbacks(viewer, query.branchId),
}))
