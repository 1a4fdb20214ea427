import { record } from '../../../core/protocol'
import { jobFileJsonSchema } from '../../../core/format'
import { defineRoute } from '../../http/route'

export default defineRoute(record.jobFormat, () => jobFileJsonSchema())
