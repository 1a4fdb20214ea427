import { promises } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { retryMessage } from '../../../services/messages'

export default defineRoute(promises.retryMessage, ({ viewer, params, body }) => retryMessage(viewer, params.id, body.recipient))
