import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listCatalogue } from '../../services/catalogue'

export default defineRoute(company.listCatalogue, async ({ viewer }) => ({
  catalogue: await listCatalogue(viewer),
}))
