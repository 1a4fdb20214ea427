import { jest } from '@jest/globals'
import { fakeApi, fakeFeed, onScreen, provideNuxt, settle } from '../testing/nuxt'

/** A screen that shows the jobs which fit what is searched. */
async function jobsScreen(options: { stands?: boolean; keptAs?: () => string } = {}) {
  const { ref } = await import('vue')
  const { useLists } = await import('./lists')
  const { useList } = await import('../composables/useList')
  Object.assign(globalThis, { useLists })
  const search = ref('')
  return { search, ...onScreen(() => useList('GET /api/jobs', () => ({ query: { search: search.value } }), ['job', 'jobs'], options)) }
}
let feed: ReturnType<typeof fakeFeed>
let server: ReturnType<typeof fakeApi>
const kept = new Map<string, unknown>()
beforeEach(() => {
  feed = fakeFeed()
  server = fakeApi()
  kept.clear()
  provideNuxt({
    api: server.api,
    useFeed: () => feed,
    keepValue: async (key: string, value: unknown) => void kept.set(key, value),
    keptValue: async (key: string) => kept.get(key) ?? null,
    // What comes close together is gathered elsewhere; here it goes at once.
    useDebounceFn: (work: () => unknown) => jest.fn(work),
  })
})
const jobs = (...names: string[]) => ({ jobs: names.map((siteName) => ({ siteName })) })

test('nothing is said before the server has answered', async () => {
  const { made } = await jobsScreen()
  expect(made.loaded.value).toBe(false)
  await server.asked[0]!.answer(jobs('Tide House'))
  expect([made.loaded.value, made.answer.value]).toEqual([true, jobs('Tide House')])
})
test('an answer that comes late is not taken for what is asked now', async () => {
  const { made, search } = await jobsScreen({ stands: true })
  search.value = 'ti'
  await settle()
  search.value = 'tide'
  await settle()
  await server.asked[2]!.answer(jobs('Tide House'))
  await server.asked[1]!.answer(jobs('Tide House', 'Tin Mill'))
  expect(made.answer.value).toEqual(jobs('Tide House'))
})
test('while another search is on its way the last list stands; another day shows nothing of the last one', async () => {
  for (const stands of [true, false]) {
    const { made, search } = await jobsScreen({ stands })
    await server.asked.at(-1)!.answer(jobs('Tide House'))
    search.value = `mill ${stands}`
    await settle()
    expect(made.answer.value).toEqual(stands ? jobs('Tide House') : null)
  }
})
test('what changes is asked for again where it is shown, and forgotten where it is not', async () => {
  const { made, leave } = await jobsScreen()
  await server.asked[0]!.answer(jobs('Tide House'))
  feed.says({ topic: 'presence' })
  expect(server.asked).toHaveLength(1)
  feed.says({ topic: 'job' })
  expect(server.asked).toHaveLength(2)
  await server.asked[1]!.answer(jobs('Tide House', 'Net Loft'))
  expect(made.answer.value).toEqual(jobs('Tide House', 'Net Loft'))
  leave()
  const again = await jobsScreen()
  expect(again.made.answer.value).toEqual(jobs('Tide House', 'Net Loft'))
  again.leave()
  feed.says({ topic: 'job' })
  expect(server.asked).toHaveLength(2)
  expect((await jobsScreen()).made.answer.value).toBeNull()
})
test('in a company where something changes all the time a list does not wait for a pause', async () => {
  const { useDebounceFn } = await import('@vueuse/core')
  Object.assign(globalThis, { useDebounceFn })
  const { leave } = await jobsScreen()
  await server.asked[0]!.answer(jobs('Tide House'))
  jest.useFakeTimers()
  try {
    for (let tenth = 0; tenth < 30; tenth++) {
      feed.says({ topic: 'job' })
      await jest.advanceTimersByTimeAsync(100)
    }
  } finally {
    jest.useRealTimers()
  }
  expect(server.asked.length).toBeGreaterThanOrEqual(2)
  expect(server.asked.length).toBeLessThan(6)
  leave()
})
test('while the connection was away nobody said what changed: what is not shown is forgotten', async () => {
  const first = await jobsScreen()
  await server.asked[0]!.answer(jobs('Tide House'))
  first.leave()
  feed.status = 'lost'
  await settle()
  expect((await jobsScreen()).made.answer.value).toBeNull()
})
test('what could not be had is asked for again once there is a connection, and by whoever opens it again', async () => {
  const { made, leave } = await jobsScreen()
  await server.asked[0]!.fail(0)
  expect(made.problem.value).toMatchObject({ status: 0 })
  feed.status = 'lost'
  await settle()
  feed.status = 'live'
  await settle()
  await server.asked[1]!.answer(jobs('Tide House'))
  expect([made.problem.value, made.answer.value]).toEqual([null, jobs('Tide House')])
  leave()
  const other = await jobsScreen()
  other.search.value = 'x'
  await settle()
  await server.asked.at(-1)!.fail(500)
  other.leave()
  const again = await jobsScreen()
  again.search.value = 'x'
  await settle()
  expect(server.asked).toHaveLength(4)
})
test('without network a list is what this device last knew, and only then', async () => {
  kept.set('mine', jobs('Tide House'))
  const offline = await jobsScreen({ keptAs: () => 'mine' })
  expect(offline.made.answer.value).toBeNull()
  await server.asked[0]!.fail(0)
  expect([offline.made.answer.value, offline.made.problem.value]).toEqual([jobs('Tide House'), null])
  offline.leave()
  const forbidden = await jobsScreen({ keptAs: () => 'other' })
  await server.asked.at(-1)!.fail(0)
  expect([forbidden.made.answer.value, forbidden.made.problem.value?.status, forbidden.made.loaded.value]).toEqual([null, 0, true])
})
