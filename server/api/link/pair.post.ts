import { links } from '../../../core/protocol'
import { addressOf } from '../../http/known-device'
import { defineRoute } from '../../http/route'
import { pairLink } from '../../services/device-links'

export default defineRoute(links.pairLink, ({ event, body }) => pairLink(body, addressOf(event)))
