import { jobs } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { jobPage } from '../../../services/jobs'

export default defineRoute(jobs.readJob, ({ viewer, params }) => jobPage(viewer, params.id))
