import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { callerOf, remember } from '../../http/known-device'
import { startSession } from '../../http/session'
import { logIn } from '../../services/sessions'

export default defineRoute(people.logIn, async ({ event, body }) => {
  const person = await logIn(body, callerOf(event))
  const viewer = await startSession(event, person)
  remember(event, person.id)
  return { viewer }
})
