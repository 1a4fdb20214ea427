import { defineRoute } from '../../http/route'
import { addBranch, newBranchSchema } from '../../services/company'

export default defineRoute({ summary: 'Open a branch.', access: ['lead'], body: newBranchSchema }, ({ viewer, body }) =>
  addBranch(viewer, body),
)
