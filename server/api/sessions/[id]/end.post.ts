import { people } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { endOwnSession } from '../../../services/sessions'

export default defineRoute(people.endOneSession, async ({ viewer, params }) => {
  await endOwnSession(viewer, params.id)
  return { ok: true as const }
})
