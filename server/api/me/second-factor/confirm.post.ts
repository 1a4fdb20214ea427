import { people } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { confirmFactor } from '../../../services/second-factor'

export default defineRoute(people.confirmFactor, async ({ viewer, body }) => {
  await confirmFactor(viewer, body)
  return { ok: true as const }
})
