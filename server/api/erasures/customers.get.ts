import { erasures } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { findErasable } from '../../services/erasures'

export default defineRoute(erasures.findErasable, ({ viewer, query }) => findErasable(viewer, query.search))
