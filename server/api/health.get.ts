import { record } from '../../core/protocol'
import { defineRoute } from '../http/route'

export default defineRoute(record.isUp, () => ({ ok: true as const }))
