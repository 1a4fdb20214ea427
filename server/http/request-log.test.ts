import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { RequestLog, type RequestLine } from './request-log'

let folder: string
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'circuitry-log-'))))
afterEach(() => rmSync(folder, { recursive: true }))

const line = (id: string): RequestLine => ({
  ...{ at: '2026-11-30T07:00:00.000Z', id, method: 'GET', route: '/api/jobs/:id', status: 200, ms: 12, personId: null },
})
const read = (name: string) =>
  readFileSync(join(folder, name), 'utf8')
    .split('\n')
    .filter(Boolean)
    .map((text) => (JSON.parse(text) as RequestLine).id)

test('lines of JSON, after a new start behind those of before; the oldest files go', () => {
  const path = join(folder, 'requests.log')
  const each = JSON.stringify(line('00')).length + 1
  let log = new RequestLog(path, each * 4, 3)
  log.write(line('01'))
  log = new RequestLog(path, each * 4, 3)
  for (let count = 2; count <= 14; count++) log.write(line(String(count).padStart(2, '0')))
  expect(readdirSync(folder).sort()).toEqual(['requests.log', 'requests.log.1', 'requests.log.2'])
  expect([read('requests.log.2'), read('requests.log.1'), read('requests.log')]).toEqual([
    ['05', '06', '07', '08'],
    ['09', '10', '11', '12'],
    ['13', '14'],
  ])
})
test('where it cannot be written, nothing else stops', () => {
  const log = new RequestLog(join(folder, 'not there', 'requests.log'))
  for (let count = 0; count < 3; count++) log.write(line('x'))
  expect(readdirSync(folder)).toEqual([])
})
