import { createServer } from 'node:http'
import type { NitroApp } from 'nitropack'
import { freeBytes, measure, measured, measureProcess, metricsPort } from '../metrics'
import { hub } from '../realtime/hub'
import { messagesWaiting } from '../services/messages'
import { papersWaiting } from '../services/paper-queue'
import { readiness } from '../services/readiness'

/**
 * What this server measures of itself, on a port of its own that only this machine reaches, where CIRCUITRY_METRICS_PORT names one.
 * Never on the port of the application: what customers reach tells nobody how busy a company is.
 */
export default (nitro: NitroApp) => {
  const port = metricsPort()
  if (!port) return
  measureProcess()
  measure('circuitry_ready', '1 while it can do its work: database, tables, key, room on the disk.', () =>
    readiness().then(
      () => 1,
      () => 0,
    ),
  )
  measure('circuitry_feeds_open', 'Windows that hear of changes at once.', () => hub.open)
  measure('circuitry_papers_waiting', 'Papers that wait to be laid out, and the one that is.', papersWaiting)
  measure('circuitry_messages_waiting', 'Letters that were not handed over yet.', messagesWaiting)
  measure('circuitry_disk_free_bytes', 'Room on the disk where the server runs.', freeBytes)
  const server = createServer((request, response) => {
    if (request.url !== '/metrics' || request.method !== 'GET') return void response.writeHead(404).end()
    measured.metrics().then(
      (text) => response.writeHead(200, { 'content-type': measured.contentType }).end(text),
      (error: unknown) => response.writeHead(500).end(String(error)),
    )
  })
  server.on('error', (error) => console.error(`Nothing is measured on port ${port}: ${error.message}`))
  server.listen(port, '127.0.0.1')
  nitro.hooks.hook('close', () => {
    server.closeAllConnections()
    server.close()
  })
}
