import { defineEventHandler, setResponseHeader } from 'h3'
import { methodsAt } from '../http/known-routes'
import { answerProblem } from '../http/route'
import { ApiError } from '../services/errors'

/** Without it an address that is none would be answered with a page. What begins with an underscore belongs to the framework. */
export default defineEventHandler((event) => {
  const path = event.path.split('?')[0]!
  if (!path.startsWith('/api/') || path.startsWith('/api/_')) return
  const methods = methodsAt(path)
  if (!methods) return answerProblem(event, new ApiError(404, 'noSuchRoute', 'There is nothing at this address.'))
  if (methods.includes(event.method)) {
    // Routes know no HEAD: it is answered as GET is, and the body stays behind.
    if (event.method === 'HEAD') {
      event.node.req.method = 'GET'
      Object.defineProperty(event, 'method', { value: 'GET' })
    }
    return
  }
  setResponseHeader(event, 'allow', methods.join(', '))
  return answerProblem(event, new ApiError(405, 'wrongMethod', `This address takes ${methods.join(', ')}.`))
})
