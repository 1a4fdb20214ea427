import { promises } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { sendMessage } from '../../../services/messages'

export default defineRoute(promises.sendMessage, ({ viewer, params, body }) => sendMessage(viewer, params.id, body))
