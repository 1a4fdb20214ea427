import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { sessionIdOf } from '../../http/session'
import { listSessions } from '../../services/sessions'

export default defineRoute(people.listSessions, async ({ event, viewer }) => listSessions(viewer, await sessionIdOf(event)))
