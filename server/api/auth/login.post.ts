import { people } from '../../../core/protocol'
import { getRequestIP } from 'h3'
import { defineRoute } from '../../http/route'
import { startSession } from '../../http/session'
import { logIn } from '../../services/sessions'

export default defineRoute(people.logIn, async ({ event, body }) => ({
  viewer: await startSession(event, await logIn(body, getRequestIP(event) ?? 'unknown')),
}))
