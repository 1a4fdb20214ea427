import { record } from '../../core/protocol'
import { setResponseHeaders } from 'h3'
import { labelSheet } from '../../core/wiring/label-sheet'
import { defineRoute } from '../http/route'
import { drawingPdf } from '../services/pdf'

export default defineRoute(record.printLabels, async ({ event, body }) => {
  const bytes = await drawingPdf(`Labels of ${body.box}`, body.schemeId, [labelSheet(body.box, body.labels)])
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': 'inline; filename="labels.pdf"' })
  return bytes
})
