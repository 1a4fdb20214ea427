import { jobs } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { listJobs } from '../../services/job-lists'

export default defineRoute(jobs.listJobs, async ({ viewer, query: filter }) => ({ jobs: await listJobs(viewer, filter) }))
