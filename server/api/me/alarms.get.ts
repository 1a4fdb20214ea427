import { defineRoute } from '../../http/route'
import { alarmsOf } from '../../services/alarms'

export default defineRoute({ summary: 'Alarms that wait for the viewer’s answer, at any home.', access: 'crew' }, async ({ viewer }) => ({
  alarms: await alarmsOf(viewer),
}))
