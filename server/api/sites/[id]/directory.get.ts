import { sites } from '../../../../core/protocol'
import { setResponseHeaders } from 'h3'
import { defineRoute } from '../../../http/route'
import { directoryCsv, directoryPdf, siteDirectory } from '../../../services/directory'

export default defineRoute(sites.siteDirectory, async ({ event, viewer, params, query }) => {
  if (query.format === 'pdf') {
    const bytes = await directoryPdf(viewer, params.id)
    setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': 'inline; filename="panel-directory.pdf"' })
    return bytes
  }
  const { row, directory } = await siteDirectory(viewer, params.id)
  if (query.format === 'json') return { name: row.name, ...directory }
  setResponseHeaders(event, {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': 'attachment; filename="panel-directory.csv"',
  })
  return directoryCsv(directory)
})
