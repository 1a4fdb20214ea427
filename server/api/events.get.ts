import { z } from 'zod'
import { streamKinds } from '../../core/stream'
import { publicEvent } from '../realtime/public-event'
import { defineRoute } from '../http/route'
import { jobFor, siteFor } from '../services/access'
import { eventsAfter } from '../services/streams'

const query = z.object({ stream: z.enum(streamKinds), streamId: z.uuid(), after: z.coerce.number().int().min(0) })

export default defineRoute(
  { summary: 'Events of a stream after a seq: for a client that missed some.', access: 'crew', query },
  async ({ viewer, query: asked }) => {
    await (asked.stream === 'site' ? siteFor(viewer, asked.streamId) : jobFor(viewer, asked.streamId))
    return { events: (await eventsAfter(asked.streamId, asked.after)).map(publicEvent) }
  },
)
