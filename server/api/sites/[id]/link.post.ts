import { idParam } from '../../../http/params'
import { defineRoute } from '../../../http/route'
import { homeLinkSchema, linkHomes } from '../../../services/home-links'

export default defineRoute(
  { summary: 'Say whether another record is the same home. Leads and the office.', access: 'crew', params: idParam, body: homeLinkSchema },
  ({ viewer, params, body }) => linkHomes(viewer, params.id, body),
)
