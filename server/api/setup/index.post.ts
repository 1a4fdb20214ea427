import { defineRoute } from '../../http/route'
import { startSession } from '../../http/session'
import { setUp, setupSchema } from '../../services/company'

export default defineRoute(
  { summary: 'First company, branch and lead; only while there is none.', access: 'public', body: setupSchema },
  async ({ event, body }) => ({ viewer: await startSession(event, await setUp(body)) }),
)
