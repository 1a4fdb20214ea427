import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { changeBranch } from '../../services/branches'

export default defineRoute(company.changeBranch, ({ viewer, params, body }) => changeBranch(viewer, params.id, body))
