import { sales } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listArticles } from '../../services/articles'

export default defineRoute(sales.listArticles, async ({ viewer, query }) => ({ articles: await listArticles(viewer, query.branchId) }))
