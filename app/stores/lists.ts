import { defineStore } from 'pinia'
import type { ApiAnswer, ApiGiven, FeedTopic, Route } from '../../core/protocol'

/** One list as the server gave it. */
export interface List<R extends Route> {
  answer: ApiAnswer<R> | null
  problem: Problem | null
  /** Screens that show it. */
  shownBy: number
  topics: readonly FeedTopic[]
  ask(): Promise<void>
  askSoon(): void
}

const gatherMs = 250
/** In a busy company something changes all the time: nobody waits longer than this for what is so now. */
const longestMs = 1_500

/**
 * Lists of the server, by what was asked. What a screen shows is asked for again when the feed says that it may have changed;
 * what none shows is kept only until then, so that going back to a screen shows it at once, and never something old.
 */
export const useLists = defineStore('lists', () => {
  const feed = useFeed()
  const lists = new Map<string, List<Route>>()

  function changed(topic: FeedTopic | null) {
    for (const [key, list] of lists) {
      if (topic !== null && !list.topics.includes(topic)) continue
      if (list.shownBy === 0) lists.delete(key)
      else list.askSoon()
    }
  }
  feed.listen(
    ({ topic }) => changed(topic),
    () => changed(null),
  )
  watch(
    () => feed.status,
    (status) => {
      for (const [key, list] of lists) {
        // What changes while it is away nobody says.
        if (list.shownBy === 0) lists.delete(key)
        else if (status === 'live' && list.problem) list.askSoon()
      }
    },
  )

  /** @param topics what the list depends on */
  function show<R extends Route>(route: R, given: ApiGiven<R>, topics: readonly FeedTopic[]): List<R> {
    const key = JSON.stringify([route, given])
    let list = lists.get(key) as List<R> | undefined
    if (!list) {
      const made: List<R> = shallowReactive({
        answer: null,
        problem: null,
        shownBy: 0,
        topics,
        async ask() {
          const answer = await (api as (route: R, given: ApiGiven<R>) => Promise<Answer<ApiAnswer<R>>>)(route, given)
          if (answer.ok) made.answer = answer.value
          made.problem = answer.ok ? null : answer.problem
        },
        askSoon: useDebounceFn(() => void made.ask(), gatherMs, { maxWait: longestMs }),
      })
      list = made
      lists.set(key, list as unknown as List<Route>)
      void list.ask()
    } else if (list.problem) void list.ask()
    list.shownBy++
    return list
  }
  function leave(list: { shownBy: number }) {
    list.shownBy--
  }
  return { show, leave }
})
