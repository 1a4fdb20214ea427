import { promises } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { readVisitPage } from '../../../services/visit-pages'

export default defineRoute(promises.readVisitPage, ({ params }) => readVisitPage(params.token))
