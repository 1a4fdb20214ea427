import { requests } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { calendarLink } from '../../services/calendar'

export default defineRoute(requests.readCalendarLink, ({ viewer }) => calendarLink(viewer))
