import { jobs } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { jobHistory } from '../../../services/jobs'

export default defineRoute(jobs.readHistory, ({ viewer, params }) => jobHistory(viewer, params.id))
