import { requests } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { decideRequest } from '../../../services/requests'

export default defineRoute(requests.decideRequest, ({ viewer, params, body }) => decideRequest(viewer, params.id, body))
