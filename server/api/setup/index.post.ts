import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { startSession } from '../../http/session'
import { needSetUpCode, setUp } from '../../services/setup'

export default defineRoute(company.setUp, async ({ event, body: { code, ...setup } }) => {
  await needSetUpCode(code)
  return { viewer: await startSession(event, await setUp(setup)) }
})
