import { defineRoute } from '../http/route'
import { database } from '../database'

export default defineRoute({ summary: 'Is the server up and its database reachable?', access: 'public' }, async () => {
  await database().sequelize.authenticate()
  return { ok: true }
})
