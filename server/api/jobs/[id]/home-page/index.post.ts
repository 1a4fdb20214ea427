import { homes } from '../../../../../core/protocol'
import { defineRoute } from '../../../../http/route'
import { makeHomeLink } from '../../../../services/home-pages'

export default defineRoute(homes.makeHomeLink, ({ viewer, params, body }) => makeHomeLink(viewer, params.id, body))
