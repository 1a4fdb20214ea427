import { people } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { sessionIdOf } from '../../../http/session'
import { changeOwnPassword } from '../../../services/sessions'

export default defineRoute(people.changePassword, async ({ event, viewer, body }) => {
  await changeOwnPassword(viewer, body, await sessionIdOf(event))
  return { ok: true as const }
})
