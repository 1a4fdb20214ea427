import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listParts } from '../../services/catalogue'

export default defineRoute(company.listParts, async ({ viewer }) => ({ parts: await listParts(viewer) }))
