import type { H3Event } from 'h3'
import { jest } from '@jest/globals'
import { homes, jobs, stock } from '../../core/protocol'
import { isPaper, keepForOpening, takeKept } from './told'

const at = (path: string) => ({ path }) as H3Event
const bytes = new TextEncoder().encode('%PDF-')
const headers = { 'content-type': 'application/pdf' }
afterEach(() => jest.useRealTimers())

test('what was made is opened once, under its own address, by whoever asked for it', () => {
  keepForOpening(at('/api/jobs/1/pack'), 'odo', bytes, headers)
  expect(takeKept(at('/api/jobs/1/pack'), 'lena')).toBeNull()
  expect(takeKept(at('/api/jobs/1/pack'), '')).toBeNull()
  expect(takeKept(at('/api/jobs/2/pack'), 'odo')).toBeNull()
  expect(takeKept(at('/api/jobs/1/pack?photos=no'), 'odo')).toBeNull()
  expect(takeKept(at('/api/jobs/1/pack'), 'odo')).toMatchObject({ bytes, headers })
  expect(takeKept(at('/api/jobs/1/pack'), 'odo')).toBeNull()
})
test('not for longer than a tab takes to open it, and not more than a few', () => {
  jest.useFakeTimers({ now: new Date('2026-12-01T10:00:00Z') })
  keepForOpening(at('/a'), 'odo', bytes, headers)
  jest.setSystemTime(new Date('2026-12-01T10:01:01Z'))
  expect(takeKept(at('/a'), 'odo')).toBeNull()
  for (let paper = 0; paper < 41; paper++) keepForOpening(at(`/${paper}`), 'odo', bytes, headers)
  expect(takeKept(at('/0'), 'odo')).toBeNull()
  expect(takeKept(at('/1'), 'odo')).not.toBeNull()
})
test('papers are files that an address says all of', () => {
  expect([jobs.readPack, homes.readHomeFile, stock.readStock].map((one) => isPaper(one))).toEqual([true, true, false])
})
