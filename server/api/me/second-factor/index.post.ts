import { people } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { beginFactor } from '../../../services/second-factor'

export default defineRoute(people.beginFactor, ({ viewer, body }) => beginFactor(viewer, body))
