import { record } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { readiness } from '../services/readiness'

export default defineRoute(record.isReady, () => readiness())
