import { dispatch } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { acceptPlan } from '../../services/accept-plan'

export default defineRoute(dispatch.acceptPlan, ({ viewer, body }) => acceptPlan(viewer, body))
