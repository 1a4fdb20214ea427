import { links } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { makeLink } from '../../services/device-links'

export default defineRoute(links.makeLink, ({ viewer, body }) => makeLink(viewer, body))
