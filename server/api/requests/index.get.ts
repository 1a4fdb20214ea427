import { requests } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listRequests } from '../../services/requests'

export default defineRoute(requests.listRequests, ({ viewer, query }) => listRequests(viewer, query.branchId))
