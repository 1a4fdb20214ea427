import { idParam } from '../../http/params'
import { defineRoute } from '../../http/route'
import { changeBranch, branchChangeSchema } from '../../services/company'

export default defineRoute(
  { summary: 'Change a branch or its method.', access: ['lead'], params: idParam, body: branchChangeSchema },
  ({ viewer, params, body }) => changeBranch(viewer, params.id, body),
)
