import { links } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listLinks } from '../../services/device-links'

export default defineRoute(links.listLinks, ({ viewer }) => listLinks(viewer))
