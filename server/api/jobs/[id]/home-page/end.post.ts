import { homes } from '../../../../../core/protocol'
import { defineRoute } from '../../../../http/route'
import { endHomeLink } from '../../../../services/home-pages'

export default defineRoute(homes.endHomeLink, ({ viewer, params }) => endHomeLink(viewer, params.id))
