import { homes } from '../../../../../core/protocol'
import { defineRoute } from '../../../../http/route'
import { sendHomeLink } from '../../../../services/home-pages'

export default defineRoute(homes.sendHomeLink, ({ viewer, params, body }) => sendHomeLink(viewer, params.id, body))
