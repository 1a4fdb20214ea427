import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { deviceKeyOf } from '../../services/secrets'

export default defineRoute(people.deviceKey, ({ viewer }) => ({ personId: viewer.personId, key: deviceKeyOf(viewer.personId) }))
