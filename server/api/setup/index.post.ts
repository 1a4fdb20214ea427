import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { startSession } from '../../http/session'
import { setUp } from '../../services/setup'

export default defineRoute(company.setUp, async ({ event, body }) => ({ viewer: await startSession(event, await setUp(body)) }))
