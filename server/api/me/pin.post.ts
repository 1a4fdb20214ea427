import { defineRoute } from '../../http/route'
import { pinSchema, setPin } from '../../services/pins'

export default defineRoute(
  { summary: 'Set one’s own PIN, with one’s password: it stands for the person on a crew mate’s device.', access: 'crew', body: pinSchema },
  ({ viewer, body }) => setPin(viewer, body),
)
