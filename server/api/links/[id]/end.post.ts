import { links } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { endLink } from '../../../services/device-links'

export default defineRoute(links.endLink, ({ viewer, params, body }) => endLink(viewer, params.id, body))
