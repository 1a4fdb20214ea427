import { sales } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { addArticle } from '../../services/articles'

export default defineRoute(sales.addArticle, ({ viewer, body }) => addArticle(viewer, body))
