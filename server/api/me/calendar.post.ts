import { requests } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { renewCalendarLink } from '../../services/calendar'

export default defineRoute(requests.renewCalendarLink, ({ viewer }) => renewCalendarLink(viewer))
