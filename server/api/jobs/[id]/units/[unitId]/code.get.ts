import { jobs } from '../../../../../../core/protocol'
import { defineRoute } from '../../../../../http/route'
import { setupCodeOf } from '../../../../../services/codes'

export default defineRoute(jobs.readSetupCode, ({ viewer, params, query }) => setupCodeOf(viewer, params.id, params.unitId, query.reason))
