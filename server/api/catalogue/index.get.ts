import { defineRoute } from '../../http/route'
import { listCatalogue } from '../../services/company'

export default defineRoute({ summary: 'Device models of the company.', access: 'crew' }, async ({ viewer }) => ({
  catalogue: await listCatalogue(viewer),
}))
