import { randomUUID } from 'node:crypto'
import type { H3Event } from 'h3'
import type { NitroApp } from 'nitropack'
import { patternAt } from '../http/known-routes'
import { RequestLog } from '../http/request-log'
import { metricsPort, sawRequest } from '../metrics'

/**
 * One line for each request to the API where CIRCUITRY_REQUEST_LOG names a file, and what it took among what is measured. Its number goes back in a header, and stands beside
 * what went wrong.
 */
export default (nitro: NitroApp) => {
  const path = process.env.CIRCUITRY_REQUEST_LOG
  const log = path ? new RequestLog(path) : null
  const measures = metricsPort() > 0
  nitro.hooks.hook('request', (event: H3Event) => {
    if (!event.path.startsWith('/api/')) return
    const began = performance.now()
    const id = randomUUID()
    event.context.requestId = id
    event.node.res.setHeader('x-request-id', id)
    if (!log && !measures) return
    const { method, path: asked } = event
    event.node.res.once('close', () => {
      const { statusCode, writableFinished } = event.node.res
      const route = patternAt(asked.split('?')[0]!) ?? 'none'
      // Whoever asked had gone, as servers say it (499, common practice, no source).
      const status = writableFinished ? statusCode : 499
      const ms = performance.now() - began
      // A window that hears of changes is one request for hours.
      if (measures && route !== '/api/feed') sawRequest(method, route, status, ms)
      log?.write({
        ...{ at: new Date().toISOString(), id, method, route, status },
        ms: Math.round(ms),
        personId: (event.context.personId as string | undefined) ?? null,
      })
    })
  })
}
