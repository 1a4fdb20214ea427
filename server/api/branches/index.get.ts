import { defineRoute } from '../../http/route'
import { listBranches } from '../../services/company'

export default defineRoute({ summary: 'Branches with their supply scheme and method.', access: 'crew' }, async ({ viewer }) => ({
  branches: await listBranches(viewer),
}))
