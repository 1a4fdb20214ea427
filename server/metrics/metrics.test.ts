import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { networkInterfaces } from 'node:os'
import { jest } from '@jest/globals'
import metrics from '../plugins/metrics'
import { openWorld } from '../testing/world'
import { measured, sawCommand, sawRequest, sawTrouble } from '.'

let closeWorld: () => Promise<void>
const closing: (() => void)[] = []
const nitro = { hooks: { hook: (_: string, close: () => void) => closing.push(close) } } as never
const listening = (server: Server, port = 0) =>
  new Promise<number>((resolve) => server.listen(port, '127.0.0.1', () => resolve((server.address() as AddressInfo).port)))
const read = async (port: number, path = '/metrics') => {
  for (let tried = 0; ; tried++)
    try {
      const answer = await fetch(`http://127.0.0.1:${port}${path}`)
      return { status: answer.status, type: answer.headers.get('content-type') ?? '', text: await answer.text() }
    } catch (error) {
      if (tried > 50) throw error
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
}
let port = 0
beforeAll(async () => {
  closeWorld = await openWorld()
  const door = createServer()
  port = await listening(door)
  await new Promise((resolve) => door.close(resolve))
  process.env.CIRCUITRY_METRICS_PORT = String(port)
  metrics(nitro)
})
afterAll(async () => {
  for (const close of closing) close()
  delete process.env.CIRCUITRY_METRICS_PORT
  measured.clear()
  await closeWorld()
})

// https://prometheus.io/docs/instrumenting/exposition_formats/, text format 0.0.4.
const line =
  /^(?:# (?:HELP|TYPE) [a-zA-Z_:][\w:]* .*|[a-zA-Z_:][\w:]*(?:\{(?:[a-zA-Z_]\w*="(?:[^"\\\n]|\\["\\n])*",?)*\})? (?:N[aA][nN]|[+-]Inf|[-+0-9.e]+)(?: \d+)?)$/

test('requests, commands and trouble are counted, in the format that watchers read', async () => {
  sawRequest('GET', '/api/jobs/:id', 200, 42)
  sawRequest('GET', '/api/jobs/:id', 200, 4200)
  sawCommand('accepted')
  sawTrouble('away')
  const { status, type, text } = await read(port)
  expect([status, type]).toEqual([200, 'text/plain; version=0.0.4; charset=utf-8'])
  expect(
    text
      .trim()
      .split('\n')
      .filter((one) => one && !line.test(one)),
  ).toEqual([])
  const labels = 'method="GET",route="/api/jobs/:id",status="200"'
  expect(text).toContain(`circuitry_request_seconds_bucket{le="0.05",${labels}} 1`)
  expect(text).toContain(`circuitry_request_seconds_bucket{le="+Inf",${labels}} 2`)
  expect(text).toContain(`circuitry_request_seconds_sum{${labels}} 4.242`)
  expect(text).toContain('circuitry_commands_total{outcome="accepted"} 1')
  expect(text).toContain('circuitry_database_trouble_total{is="away"} 1')
  for (const name of ['ready 1', 'feeds_open 0', 'papers_waiting 0', 'messages_waiting 0']) expect(text).toContain(`circuitry_${name}\n`)
  expect(Number(/^circuitry_disk_free_bytes (\S+)/m.exec(text)![1])).toBeGreaterThan(1e6)
  expect(text).toContain('circuitry_nodejs_eventloop_lag_seconds')
})
test('only this machine reaches it, and it knows one address', async () => {
  expect((await read(port, '/')).status).toBe(404)
  expect((await read(port, '/api/health')).status).toBe(404)
  const other = Object.values(networkInterfaces())
    .flat()
    .find((one) => one && !one.internal && one.family === 'IPv4')
  if (other) await expect(fetch(`http://${other.address}:${port}/metrics`)).rejects.toThrow()
})
test('a port that somebody else has stops nothing', async () => {
  const said = jest.spyOn(console, 'error').mockImplementation(() => undefined)
  const taken = createServer()
  process.env.CIRCUITRY_METRICS_PORT = String(await listening(taken))
  measured.clear()
  metrics(nitro)
  for (let waited = 0; !said.mock.calls.length && waited < 100; waited++) await new Promise((resolve) => setTimeout(resolve, 20))
  expect(String(said.mock.calls[0])).toContain('Nothing is measured on port')
  said.mockRestore()
  taken.close()
})
