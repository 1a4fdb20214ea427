import { idParam } from '../../../http/params'
import { defineRoute } from '../../../http/route'
import { presentAt } from '../../../services/presence'

export default defineRoute({ summary: 'Who is at a site, and where.', access: 'crew', params: idParam }, ({ viewer, params }) =>
  presentAt(viewer, params.id),
)
