import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { sessionViewer } from '../../http/session'

export default defineRoute(people.whoAmI, async ({ event }) => ({
  viewer: await sessionViewer(event),
  now: new Date().toISOString(),
}))
