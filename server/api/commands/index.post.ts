import { record } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { execute } from '../../services/commands'

export default defineRoute(record.submitCommand, ({ viewer, body }) => execute(body, viewer))
