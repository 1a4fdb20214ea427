import { z } from 'zod'
import { jobStatuses } from '../../../core/record'
import { defineRoute } from '../../http/route'
import { listJobs } from '../../services/jobs'

const query = z.object({
  search: z.string().max(100).optional(),
  status: z.enum(jobStatuses).optional(),
  branchId: z.uuid().optional(),
  siteId: z.uuid().optional(),
})

export default defineRoute(
  { summary: 'Jobs, newest first, by search, status, branch or site.', access: 'crew', query },
  async ({ viewer, query: filter }) => ({ jobs: await listJobs(viewer, filter) }),
)
