import { getRequestHeader } from 'h3'
import { links } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { linkOfPass } from '../../services/device-links'
import { takeLinkTasks } from '../../services/link-asks'

export default defineRoute(links.takeLinkTasks, async ({ event }) =>
  takeLinkTasks(await linkOfPass(getRequestHeader(event, 'authorization')), () => event.node.res.destroyed),
)
