import { idParam } from '../../../http/params'
import { defineRoute } from '../../../http/route'
import { arriveAt, placeSchema } from '../../../services/presence'

export default defineRoute(
  { summary: 'Say where one is at a site: the walk, the panel or a box.', access: 'crew', params: idParam, body: placeSchema },
  ({ viewer, params, body }) => arriveAt(viewer, params.id, body),
)
