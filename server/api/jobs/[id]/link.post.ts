import { links } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { askLink } from '../../../services/link-asks'

export default defineRoute(links.askLink, ({ viewer, params, body }) => askLink(viewer, params.id, body))
