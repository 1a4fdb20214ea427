import { record } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { execute } from '../services/commands'

export default defineRoute(record.giveCommand, ({ viewer, body }) => execute(body, viewer))
