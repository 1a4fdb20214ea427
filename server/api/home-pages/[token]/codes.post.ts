import { homes } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { readHomeCodes } from '../../../services/home-pages'

export default defineRoute(homes.readHomeCodes, ({ params, body }) => readHomeCodes(params.token, body.pin))
