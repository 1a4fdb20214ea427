import { dispatch } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { readVisitsTable } from '../../services/day-files'

export default defineRoute(dispatch.readVisitsTable, ({ viewer, body }) => readVisitsTable(viewer, body))
