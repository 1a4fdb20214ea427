import { idParam } from '../../../http/params'
import { defineRoute } from '../../../http/route'
import { jobHistory } from '../../../services/jobs'

export default defineRoute(
  { summary: 'Everything that happened on a job and to the power of its site, newest first.', access: 'crew', params: idParam },
  ({ viewer, params }) => jobHistory(viewer, params.id),
)
