import { defineEventHandler, setResponseHeader } from 'h3'
import { overTls } from '../http/public-origin'

/** A year, as is usual: a browser that was here once over TLS does not come by plain http again (RFC 6797). */
export default defineEventHandler((event) => {
  if (overTls()) setResponseHeader(event, 'strict-transport-security', 'max-age=31536000')
})
