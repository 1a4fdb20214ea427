import { jobs } from '../../../../core/protocol'
import { setResponseHeaders } from 'h3'
import { defineRoute } from '../../../http/route'
import { surveyArchive, surveyFile, surveyPaper } from '../../../services/survey-out'

export default defineRoute(jobs.readSurvey, async ({ event, viewer, params, query }) => {
  const named = (type: string, name: string, how: 'inline' | 'attachment' = 'attachment') =>
    setResponseHeaders(event, { 'content-type': type, 'content-disposition': `${how}; filename="${name}"` })
  if (query.as === 'pdf') {
    const { number, bytes } = await surveyPaper(viewer, params.id)
    named('application/pdf', `survey-${number}.pdf`, 'inline')
    return bytes
  }
  if (query.as === 'tables') {
    const { number, bytes } = await surveyArchive(viewer, params.id)
    named('application/zip', `survey-${number}.zip`)
    return bytes
  }
  const { number, file } = await surveyFile(viewer, params.id)
  named('application/json', `survey-${number}.json`)
  return file
})
