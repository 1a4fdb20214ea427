import { sites } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listSites } from '../../services/job-lists'

export default defineRoute(sites.listSites, async ({ viewer }) => ({
  sites: await listSites(viewer),
}))
