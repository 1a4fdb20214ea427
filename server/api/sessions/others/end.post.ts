import { people } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { sessionIdOf } from '../../../http/session'
import { endOtherSessions } from '../../../services/sessions'

export default defineRoute(people.endOtherSessions, async ({ event, viewer }) => {
  await endOtherSessions(viewer, await sessionIdOf(event))
  return { ok: true as const }
})
