import { sites } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { linkHomes } from '../../../services/home-links'

export default defineRoute(sites.linkHomes, ({ viewer, params, body }) => linkHomes(viewer, params.id, body))
