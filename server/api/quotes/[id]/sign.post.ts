import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { signChange } from '../../../services/changes'

export default defineRoute(sales.signChange, ({ viewer, params, body }) => signChange(viewer, params.id, body))
