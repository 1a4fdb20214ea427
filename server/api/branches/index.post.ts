import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { addBranch } from '../../services/branches'

export default defineRoute(company.addBranch, ({ viewer, body }) => addBranch(viewer, body))
