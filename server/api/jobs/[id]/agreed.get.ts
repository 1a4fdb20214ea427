import { sales } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { readAgreed } from '../../../services/changes'

export default defineRoute(sales.readAgreed, ({ viewer, params }) => readAgreed(viewer, params.id))
