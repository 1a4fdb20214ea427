import { setResponseHeader } from 'h3'
import { requests } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { readCalendar } from '../../services/calendar'

export default defineRoute(requests.readCalendar, async ({ event, params }) => {
  const text = await readCalendar(params.token)
  setResponseHeader(event, 'content-type', 'text/calendar; charset=utf-8')
  return text
})
