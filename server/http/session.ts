import type { H3Event } from 'h3'
import { viewerOf, viewerOfSession, type Viewer } from '../services/access'
import type { PersonRow } from '../database'

/** The session cookie is sealed and says only who and which sign-in generation; rights are read fresh each time. */
export async function sessionViewer(event: H3Event): Promise<Viewer | null> {
  const { user } = await getUserSession(event)
  return user ? viewerOfSession(user.personId, user.epoch) : null
}

export async function startSession(event: H3Event, person: PersonRow): Promise<Viewer> {
  await setUserSession(event, { user: { personId: person.id, epoch: person.sessionEpoch }, loggedInAt: Date.now() })
  return viewerOf(person)
}

export const endSession = (event: H3Event) => clearUserSession(event)
