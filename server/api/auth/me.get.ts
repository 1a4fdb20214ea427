import { defineRoute } from '../../http/route'
import { sessionViewer } from '../../http/session'

export default defineRoute({ summary: 'Who is logged in; null when nobody is.', access: 'public' }, async ({ event }) => ({
  viewer: await sessionViewer(event),
  now: new Date().toISOString(),
}))
