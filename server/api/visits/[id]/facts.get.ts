import { promises } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { visitFacts } from '../../../services/visit-facts'

export default defineRoute(promises.readVisitFacts, ({ viewer, params }) => visitFacts(viewer, params.id))
