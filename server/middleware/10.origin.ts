import { defineEventHandler, getRequestHeader, getRequestHost } from 'h3'
import { saidOrigin } from '../http/public-origin'
import { answerProblem } from '../http/route'
import { ApiError } from '../services/errors'

/**
 * Browsers say where a changing request comes from. One from another origin is refused, whatever cookies it carries.
 * Programs without a browser send no Origin and carry no ambient cookies, so nothing is lost for them.
 */
export default defineEventHandler((event) => {
  if (!event.path.startsWith('/api/') || event.method === 'GET' || event.method === 'HEAD') return
  const origin = getRequestHeader(event, 'origin')
  const site = getRequestHeader(event, 'sec-fetch-site')
  const said = saidOrigin()
  // Where it is known, a name that somebody else has pointed here is not believed for being the one that was asked.
  const here = (from: string) => URL.canParse(from) && (said ? new URL(from).origin === said : new URL(from).host === getRequestHost(event))
  const foreign = (origin && !here(origin)) || (site && site !== 'same-origin' && site !== 'none')
  if (foreign)
    return answerProblem(
      event,
      new ApiError(403, 'foreignOrigin', `This request came from another site.${said ? ` Open Circuitry at ${said}.` : ''}`),
    )
})
