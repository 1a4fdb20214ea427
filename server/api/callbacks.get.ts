import { branchQuery } from '../http/params'
import { defineRoute } from '../http/route'
import { listCallbacks } from '../services/jobs'

export default defineRoute({ summary: 'Callbacks, open ones first.', access: 'crew', query: branchQuery }, async ({ viewer, query }) => ({
  callbacks: await listCallbacks(viewer, query.branchId),
}))
