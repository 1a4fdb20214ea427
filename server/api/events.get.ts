import { record } from '../../core/protocol'
import { publicEvent } from '../realtime/public-event'
import { defineRoute } from '../http/route'
import { jobFor, siteFor } from '../services/access'
import { eventsAfter } from '../services/streams'

export default defineRoute(record.readEvents, async ({ viewer, query: asked }) => {
  await (asked.stream === 'site' ? siteFor(viewer, asked.streamId) : jobFor(viewer, asked.streamId))
  return { events: (await eventsAfter(asked.streamId, asked.after)).map(publicEvent) }
})
