import type { SiteState } from '../../core/site'
import type { HuntTalk } from '../workers/hunt'

/** The hunt as the record tells it, planned in a worker. */
export function useHunt(site: Ref<SiteState | null>, boxIds: Ref<string[]>) {
  const {
    put,
    answer: hunt,
    thinking,
    failed,
  } = useNewestAnswer<HuntTalk>(() => new Worker(new URL('../workers/hunt.ts', import.meta.url), { type: 'module' }))
  const ask = () => {
    if (site.value) void put({ site: toRaw(site.value), boxIds: [...boxIds.value] })
  }
  watch([() => site.value?.seq, boxIds], ask, { immediate: true })
  return { hunt, thinking, failed, again: ask }
}
