import { insight } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { readOwnInsight } from '../../services/insight'

export default defineRoute(insight.readOwnInsight, ({ viewer }) => readOwnInsight(viewer))
