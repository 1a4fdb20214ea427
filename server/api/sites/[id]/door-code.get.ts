import { idParam } from '../../../http/params'
import { defineRoute } from '../../../http/route'
import { doorCodeOf } from '../../../services/jobs'

export default defineRoute(
  { summary: 'The door code of a home. Every reading is logged.', access: 'crew', params: idParam },
  ({ viewer, params }) => doorCodeOf(viewer, params.id),
)
