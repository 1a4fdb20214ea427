import { sales } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { modelRecord } from '../../services/articles'

export default defineRoute(sales.modelRecord, async ({ viewer }) => ({ record: await modelRecord(viewer) }))
