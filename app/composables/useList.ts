import type { ApiAnswer, ApiGiven, FeedTopic, Route } from '../../core/protocol'
import type { List } from '~/stores/lists'

interface Options {
  /** Name under which this device keeps it, for a start without network. */
  keptAs?: () => string
  /** While another one is asked for, the last one stands: for a search, not for another day. */
  stands?: boolean
}

/** A list that stays as the server has it while this screen shows it. */
export function useList<R extends Route>(
  route: R,
  given: () => ApiGiven<R>,
  topics: FeedTopic[],
  { keptAs, stands = false }: Options = {},
) {
  const lists = useLists()
  const list = shallowRef<List<R> | null>(null)
  const answer = shallowRef<ApiAnswer<R> | null>(null)
  watch(
    () => JSON.stringify(given()),
    (_now, _before, onCleanup) => {
      const shown = lists.show(route, given(), topics)
      list.value = shown
      if (!stands) answer.value = shown.answer
      onCleanup(() => lists.leave(shown))
    },
    { immediate: true },
  )
  watch(
    () => list.value?.answer,
    (now) => {
      if (!now) return
      answer.value = now
      if (keptAs) void keepValue(keptAs(), now)
    },
    { immediate: true },
  )
  const failed = shallowRef<Problem | null>(null)
  watch(
    () => list.value?.problem ?? null,
    async (problem) => {
      // No network: as this device last knew it.
      if (problem?.status === 0 && keptAs && !answer.value) answer.value = await keptValue<ApiAnswer<R>>(keptAs())
      failed.value = problem
    },
    { immediate: true },
  )
  return {
    answer,
    loaded: computed(() => answer.value !== null || failed.value !== null),
    problem: computed(() => (keptAs && answer.value && failed.value?.status === 0 ? null : failed.value)),
    load: () => list.value?.ask(),
  }
}
