import { people } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { endFactor } from '../../../services/second-factor'

export default defineRoute(people.endFactor, async ({ viewer, body }) => {
  await endFactor(viewer, body)
  return { ok: true as const }
})
