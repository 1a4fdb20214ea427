import { record } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { executeSeveral } from '../../services/commands'

export default defineRoute(record.submitSeveral, async ({ viewer, body }) => ({ answers: await executeSeveral(body.commands, viewer) }))
