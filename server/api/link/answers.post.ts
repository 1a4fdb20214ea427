import { getRequestHeader } from 'h3'
import { links } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { linkOfPass } from '../../services/device-links'
import { takeLinkAnswer } from '../../services/link-asks'

export default defineRoute(links.giveLinkAnswer, async ({ event, body }) =>
  takeLinkAnswer(await linkOfPass(getRequestHeader(event, 'authorization')), body),
)
