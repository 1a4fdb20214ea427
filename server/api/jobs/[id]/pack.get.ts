import { setResponseHeaders } from 'h3'
import { idParam } from '../../../http/params'
import { defineRoute } from '../../../http/route'
import { handoverPack } from '../../../services/pack'

export default defineRoute(
  {
    summary:
      'The handover pack as PDF: points, circuits, tests, codes, and what to do without internet. The reading of its codes is logged.',
    access: 'crew',
    params: idParam,
    answers: 'application/pdf',
  },
  async ({ event, viewer, params }) => {
    const { number, bytes } = await handoverPack(viewer, params.id)
    setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="handover-${number}.pdf"` })
    return bytes
  },
)
