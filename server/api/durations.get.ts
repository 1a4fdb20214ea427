import { dispatch } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { learntDurations } from '../services/durations'

export default defineRoute(dispatch.readDurations, ({ viewer, query }) => learntDurations(viewer, query.branchId))
