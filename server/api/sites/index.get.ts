import { sites } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listSites } from '../../services/jobs'

export default defineRoute(sites.listSites, async ({ viewer }) => ({
  sites: await listSites(viewer),
}))
