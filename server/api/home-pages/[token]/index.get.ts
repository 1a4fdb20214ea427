import { homes } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { readHomePage } from '../../../services/home-pages'

export default defineRoute(homes.readHomePage, ({ params }) => readHomePage(params.token))
