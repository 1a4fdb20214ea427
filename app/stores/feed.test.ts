import { jest } from '@jest/globals'
import { provideNuxt } from '../testing/nuxt'

/** The browser's event stream, in the hand of the test. */
class FakeSource {
  static readonly CLOSED = 2
  static opened: FakeSource[] = []
  readyState = 1
  onerror: () => void = () => undefined
  private readonly heard = new Map<string, (message: { data: string }) => void>()
  constructor(readonly url: string) {
    FakeSource.opened.push(this)
  }
  addEventListener(name: string, listener: (message: { data: string }) => void) {
    this.heard.set(name, listener)
  }
  says(name: string, data: unknown = {}) {
    this.heard.get(name)!({ data: JSON.stringify(data) })
  }
  close() {
    this.readyState = FakeSource.CLOSED
  }
}
const windowListeners = new Map<string, () => void>()
const session = { expired: false }
const newest = () => FakeSource.opened.at(-1)!

async function openFeed() {
  FakeSource.opened = []
  session.expired = false
  provideNuxt({
    EventSource: FakeSource,
    window: { addEventListener: (name: string, listener: () => void) => windowListeners.set(name, listener) },
    useSession: () => session,
  })
  const { useFeed } = await import('./feed')
  const feed = useFeed()
  const heard: number[] = []
  const reset = jest.fn()
  feed.listen(({ seq }) => heard.push(seq), reset)
  feed.open()
  return { feed, heard, reset }
}
beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())

test('it comes back where it was, and says so only to who missed something', async () => {
  const { feed, heard, reset } = await openFeed()
  expect([newest().url, feed.status]).toEqual(['/api/feed', 'connecting'])
  newest().says('hello', { seq: 7, reset: false })
  expect([feed.status, reset.mock.calls.length]).toEqual(['live', 1])
  newest().says('change', { seq: 8, topic: 'job', streamId: null, events: [] })
  newest().readyState = FakeSource.CLOSED
  newest().onerror()
  expect(feed.status).toBe('lost')
  jest.advanceTimersByTime(1500)
  expect(newest().url).toBe('/api/feed?from=8')
  newest().says('hello', { seq: 8, reset: false })
  newest().says('change', { seq: 9, topic: 'job', streamId: null, events: [] })
  expect([feed.status, heard, reset.mock.calls.length]).toEqual(['live', [8, 9], 1])
  // Too long away for the server to tell all of it.
  newest().says('hello', { seq: 900, reset: true })
  expect(reset).toHaveBeenCalledTimes(2)
  expect(feed.wentBack).toBeNull()
  // The server lost what it had said.
  newest().says('hello', { seq: 890, reset: true })
  expect([reset.mock.calls.length, feed.wentBack]).toEqual([3, Date.now()])
})
test('a line that is silent for longer than the server ever is, is lost', async () => {
  const { feed } = await openFeed()
  newest().says('hello', { seq: 1, reset: false })
  for (let beats = 0; beats < 10; beats++) {
    jest.advanceTimersByTime(15_000)
    newest().says('beat')
  }
  expect(feed.status).toBe('live')
  jest.advanceTimersByTime(40_000)
  expect(feed.status).toBe('lost')
  expect(newest().url).toBe('/api/feed?from=1')
})
test('a device that knows that it has no network says so at once', async () => {
  const { feed } = await openFeed()
  newest().says('hello', { seq: 1, reset: false })
  windowListeners.get('offline')!()
  expect(feed.status).toBe('lost')
  windowListeners.get('online')!()
  newest().says('hello', { seq: 1, reset: false })
  expect(feed.status).toBe('live')
})
test('a session that ended is said, and not tried again', async () => {
  const { feed } = await openFeed()
  newest().says('hello', { seq: 1, reset: false })
  const { length } = FakeSource.opened
  newest().says('ended')
  jest.advanceTimersByTime(120_000)
  expect([session.expired, feed.status, FakeSource.opened.length]).toEqual([true, 'lost', length])
})
