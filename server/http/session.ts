import { getRequestHeader, type H3Event } from 'h3'
import { viewerOf, viewerOfSession, type Viewer } from '../services/access'
import type { PersonRow } from '../database'
import { closeSession, openSession } from '../services/sessions'

/** The session cookie is sealed and says only who, which sign-in and which generation of them; rights are read fresh each time. */
export async function sessionViewer(event: H3Event): Promise<Viewer | null> {
  const { user } = await getUserSession(event)
  return user?.sessionId ? viewerOfSession(user) : null
}
export const sessionIdOf = async (event: H3Event): Promise<string | null> => (await getUserSession(event)).user?.sessionId ?? null

/** Whoever was logged in with this cookie before is not any more. */
export async function startSession(event: H3Event, person: PersonRow): Promise<Viewer> {
  await closeOwn(event)
  const sessionId = await openSession(person, getRequestHeader(event, 'user-agent') ?? '')
  await setUserSession(event, { user: { personId: person.id, epoch: person.sessionEpoch, sessionId }, loggedInAt: Date.now() })
  return viewerOf(person)
}

export async function endSession(event: H3Event): Promise<void> {
  await closeOwn(event)
  await clearUserSession(event)
}
async function closeOwn(event: H3Event): Promise<void> {
  const { user } = await getUserSession(event)
  if (user?.sessionId) await closeSession(user.personId, user.sessionId)
}
