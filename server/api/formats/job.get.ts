import { jobFileJsonSchema } from '../../../core/format'
import { defineRoute } from '../../http/route'

export default defineRoute({ summary: 'JSON Schema of the open job format.', access: 'public' }, () => jobFileJsonSchema())
