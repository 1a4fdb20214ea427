import { setResponseHeaders } from 'h3'
import { z } from 'zod'
import { schemeIds } from '../../core/units'
import { labelSheet } from '../../core/wiring/label-sheet'
import { defineRoute } from '../http/route'
import { drawingPdf } from '../services/pdf'

const label = z.object({
  letter: z.string().regex(/^[A-Z]{1,2}$/),
  cable: z.string().max(40),
  word: z.string().max(30),
})

export default defineRoute(
  {
    summary: 'A sheet of flags to cut out and fold around the conductors of a box, as PDF. Nothing is stored.',
    access: 'crew',
    body: z.object({ box: z.string().min(1).max(60), schemeId: z.enum(schemeIds), labels: z.array(label).min(1).max(30) }),
    answers: 'application/pdf',
  },
  async ({ event, body }) => {
    const bytes = await drawingPdf(`Labels of ${body.box}`, body.schemeId, labelSheet(body.box, body.labels))
    setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': 'inline; filename="labels.pdf"' })
    return bytes
  },
)
