import { requests } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { withdrawRequest } from '../../../services/requests'

export default defineRoute(requests.withdrawRequest, ({ viewer, params }) => withdrawRequest(viewer, params.id))
