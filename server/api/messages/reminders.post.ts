import { promises } from '../../../core/protocol'
import { publicOrigin } from '../../http/public-origin'
import { defineRoute } from '../../http/route'
import { remind } from '../../services/reminders'

export default defineRoute(promises.remind, ({ event, viewer, body }) => remind(viewer, body, publicOrigin(event)))
