import { links } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { readJobLink } from '../../../services/link-asks'

export default defineRoute(links.readJobLink, ({ viewer, params }) => readJobLink(viewer, params.id))
