import { getRequestURL } from 'h3'
import { promises } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { remind } from '../../services/reminders'

export default defineRoute(promises.remind, ({ event, viewer, body }) => remind(viewer, body, getRequestURL(event).origin))
