import { sales } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { changeArticle } from '../../services/articles'

export default defineRoute(sales.changeArticle, ({ viewer, params, body }) => changeArticle(viewer, params.id, body))
