import { defineRoute } from '../../http/route'
import { endSession } from '../../http/session'

export default defineRoute({ summary: 'Log out on this device.', access: 'public' }, async ({ event }) => {
  await endSession(event)
  return { ok: true }
})
