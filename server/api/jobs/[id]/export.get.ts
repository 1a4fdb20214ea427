import { jobs } from '../../../../core/protocol'
import { setResponseHeader } from 'h3'
import { defineRoute } from '../../../http/route'
import { exportJob } from '../../../services/job-page'

export default defineRoute(jobs.exportJob, async ({ event, viewer, params }) => {
  const record = await exportJob(viewer, params.id)
  setResponseHeader(event, 'content-disposition', `attachment; filename="job-${record.job.number}.json"`)
  return record
})
