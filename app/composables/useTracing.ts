import type { SiteState } from '../../core/site'
import type { TracingTalk } from '../workers/tracing'

/** The hunt as the record tells it, planned in a worker. */
export function useTracing(site: Ref<SiteState | null>, boxIds: Ref<string[]>) {
  const {
    put,
    answer: tracing,
    thinking,
    failed,
  } = useNewestAnswer<TracingTalk>(() => new Worker(new URL('../workers/tracing.ts', import.meta.url), { type: 'module' }))
  const ask = () => {
    if (site.value) void put({ site: toRaw(site.value), boxIds: [...boxIds.value] })
  }
  watch([() => site.value?.seq, boxIds], ask, { immediate: true })
  return { tracing, thinking, failed, again: ask }
}
