import type { Present } from '../../core/protocol'

/** Who is at this site, kept live; and this device saying where its person is. */
export function usePresence(siteId: Ref<string | null>, place: Ref<string>) {
  const feed = useFeed()
  const present = ref<Present[]>([])
  async function load() {
    if (!siteId.value) return
    const answer = await api('GET /api/sites/:id/presence', { params: { id: siteId.value } })
    if (answer.ok) present.value = answer.value.present
  }
  const reload = useDebounceFn(load, 200, { maxWait: 2_000 })
  onScopeDispose(
    feed.listen(
      (change) => {
        if (change.topic === 'presence' && change.streamId === siteId.value) void reload()
      },
      () => void load(),
    ),
  )
  watchDebounced(
    [siteId, place, () => feed.status],
    () => {
      if (siteId.value && feed.status === 'live')
        void api('POST /api/sites/:id/presence', { params: { id: siteId.value }, body: { place: place.value } })
    },
    { debounce: 400, immediate: true },
  )
  watch(siteId, load, { immediate: true })
  return { present }
}
