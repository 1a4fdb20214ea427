import { setResponseHeaders } from 'h3'
import { homes } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { guestCardPdf } from '../../../services/home-pages'

export default defineRoute(homes.guestCardOf, async ({ event, viewer, params }) => {
  const { number, bytes } = await guestCardPdf(viewer, params.id)
  setResponseHeaders(event, { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="guests-${number}.pdf"` })
  return bytes
})
