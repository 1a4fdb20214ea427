import { promises } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listMessages } from '../../services/messages'

export default defineRoute(promises.listMessages, ({ viewer, query }) => listMessages(viewer, query.branchId, query.state))
