import { getRequestIP } from 'h3'
import { links } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { pairLink } from '../../services/device-links'

export default defineRoute(links.pairLink, ({ event, body }) => pairLink(body, getRequestIP(event) ?? 'unknown'))
