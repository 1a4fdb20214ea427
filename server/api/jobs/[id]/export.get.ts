import { setResponseHeader } from 'h3'
import { idParam } from '../../../http/params'
import { defineRoute } from '../../../http/route'
import { exportJob } from '../../../services/jobs'

export default defineRoute(
  { summary: 'The whole record of a job as an open JSON document, without setup codes.', access: 'crew', params: idParam },
  async ({ event, viewer, params }) => {
    const record = await exportJob(viewer, params.id)
    setResponseHeader(event, 'content-disposition', `attachment; filename="job-${record.job.number}.json"`)
    return record
  },
)
