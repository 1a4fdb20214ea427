import { defineRoute } from '../../http/route'
import { listSites } from '../../services/jobs'

export default defineRoute({ summary: 'Homes the company knows.', access: 'crew' }, async ({ viewer }) => ({
  sites: await listSites(viewer),
}))
