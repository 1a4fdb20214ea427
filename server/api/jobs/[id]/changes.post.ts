import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { makeChange } from '../../../services/changes'

export default defineRoute(sales.makeChange, ({ viewer, params, body }) => makeChange(viewer, params.id, body))
