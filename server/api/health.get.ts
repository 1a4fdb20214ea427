import { record } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { database } from '../database'

export default defineRoute(record.isUp, async () => {
  await database().sequelize.authenticate()
  return { ok: true as const }
})
