import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listBranches } from '../../services/branches'

export default defineRoute(company.listBranches, async ({ viewer }) => ({
  branches: await listBranches(viewer),
}))
