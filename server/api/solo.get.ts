import { defineRoute } from '../http/route'
import { soloWatches } from '../services/presence'

export default defineRoute({ summary: 'Who works alone, and when each is to be heard of.', access: 'crew' }, ({ viewer }) =>
  soloWatches(viewer),
)
