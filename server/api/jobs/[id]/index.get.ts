import { idParam } from '../../../http/params'
import { defineRoute } from '../../../http/route'
import { jobPage } from '../../../services/jobs'

export default defineRoute(
  { summary: 'One job with the folded state of its record and of its site.', access: 'crew', params: idParam },
  ({ viewer, params }) => jobPage(viewer, params.id),
)
