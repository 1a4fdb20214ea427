import { homes } from '../../../../../core/protocol'
import { defineRoute } from '../../../../http/route'
import { readHomeLink } from '../../../../services/home-pages'

export default defineRoute(homes.readHomeLink, ({ viewer, params }) => readHomeLink(viewer, params.id))
