import { sales } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { fillArticles } from '../../services/articles'

export default defineRoute(sales.fillArticles, ({ viewer, body }) => fillArticles(viewer, body.branchId))
