import { record } from '../../../core/protocol'
import { openApi } from '../../http/reference'
import { defineRoute } from '../../http/route'

export default defineRoute(record.apiFormat, openApi)
