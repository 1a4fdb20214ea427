import { setResponseHeaders } from 'h3'
import { homes } from '../../../../core/protocol'
import { defineRoute } from '../../../http/route'
import { homeFile } from '../../../services/home-pages'

export default defineRoute(homes.readHomeFile, async ({ event, params, query }) => {
  const file = await homeFile(params.token, query.as)
  setResponseHeaders(
    event,
    {
      html: { 'content-type': 'text/html; charset=utf-8', 'content-disposition': 'attachment; filename="our-home.html"' },
      pdf: { 'content-type': 'application/pdf', 'content-disposition': 'inline; filename="our-home.pdf"' },
      card: { 'content-type': 'application/pdf', 'content-disposition': 'inline; filename="for-guests.pdf"' },
    }[query.as],
  )
  return file
})
