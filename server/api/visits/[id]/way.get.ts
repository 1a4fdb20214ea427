import { promises } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { wayTo } from '../../../services/way'

export default defineRoute(promises.readWay, ({ viewer, params }) => wayTo(viewer, params.id))
