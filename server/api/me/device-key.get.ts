import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { deviceKeyFor } from '../../services/installation'

export default defineRoute(people.deviceKey, async ({ viewer }) => ({
  personId: viewer.personId,
  key: await deviceKeyFor(viewer.personId),
}))
