import { erasures } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { keepFor } from '../../services/erasures'

export default defineRoute(erasures.keepFor, ({ viewer, body }) => keepFor(viewer, body))
