import { z } from 'zod'
import { defineRoute } from '../http/route'
import { visitsBetween } from '../services/jobs'

const query = z.object({
  from: z.iso.datetime({ offset: true }),
  to: z.iso.datetime({ offset: true }),
  branchId: z.uuid().optional(),
  mine: z.enum(['yes', 'no']).optional(),
})

export default defineRoute(
  { summary: 'Visits between two instants, with crew, progress and hanging tags.', access: 'crew', query },
  async ({ viewer, query: { from, to, branchId, mine } }) => ({
    visits: await visitsBetween(viewer, new Date(from), new Date(to), { branchId, personId: mine === 'yes' ? viewer.personId : undefined }),
  }),
)
