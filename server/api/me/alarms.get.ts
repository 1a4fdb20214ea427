import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { alarmsOf } from '../../services/alarms'

export default defineRoute(people.listAlarms, async ({ viewer }) => ({
  alarms: await alarmsOf(viewer),
}))
