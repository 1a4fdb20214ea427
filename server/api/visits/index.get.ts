import { jobs } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { visitsBetween } from '../../services/visits'

export default defineRoute(jobs.listVisits, async ({ viewer, query: { from, to, branchId, mine } }) => ({
  visits: await visitsBetween(viewer, new Date(from), new Date(to), { branchId, personId: mine === 'yes' ? viewer.personId : undefined }),
}))
