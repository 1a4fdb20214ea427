import { erasures } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { readErasures } from '../../services/erasures'

export default defineRoute(erasures.readErasures, ({ viewer }) => readErasures(viewer))
