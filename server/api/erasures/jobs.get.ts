import { erasures } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { erasedJobs } from '../../services/erasures'

export default defineRoute(erasures.erasedJobs, ({ viewer, query }) => erasedJobs(viewer, new Date(query.after)))
