import { jobs } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { jobHistory } from '../../../services/job-page'

export default defineRoute(jobs.readHistory, ({ viewer, params }) => jobHistory(viewer, params.id))
