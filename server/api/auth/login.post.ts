import { getRequestIP } from 'h3'
import { defineRoute } from '../../http/route'
import { startSession } from '../../http/session'
import { logIn, loginSchema } from '../../services/sessions'

export default defineRoute({ summary: 'Log in.', access: 'public', body: loginSchema }, async ({ event, body }) => ({
  viewer: await startSession(event, await logIn(body, getRequestIP(event) ?? 'unknown')),
}))
