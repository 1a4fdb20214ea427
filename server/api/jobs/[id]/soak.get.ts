import { insight } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { readSoak } from '../../../services/insight'

export default defineRoute(insight.readSoak, ({ viewer, params }) => readSoak(viewer, params.id))
