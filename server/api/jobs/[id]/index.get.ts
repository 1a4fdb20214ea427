import { jobs } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { jobPage } from '../../../services/job-page'

export default defineRoute(jobs.readJob, ({ viewer, params }) => jobPage(viewer, params.id))
