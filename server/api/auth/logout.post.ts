import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { endSession } from '../../http/session'

export default defineRoute(people.logOut, async ({ event }) => {
  await endSession(event)
  return { ok: true as const }
})
