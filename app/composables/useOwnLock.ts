import { tagsOn, type SiteState } from '../../core/site'

/**
 * The lock that comes to hand for a breaker: one of the person's own that hangs nowhere else on this site. What was typed last
 * comes first.
 */
export function useOwnLock(site: () => SiteState | null, breakerId: () => string | null | undefined) {
  const session = useSession()
  const known = useLocalStorage<string[]>(`circuitry-locks-${session.viewer?.personId}`, [])
  const elsewhere = computed(() =>
    Object.keys(site()?.breakers ?? {}).flatMap((id) => (id === breakerId() ? [] : tagsOn(site()!, id).map((tag) => tag.lock))),
  )
  const lock = ref('')
  watch(
    breakerId,
    () => {
      if (!lock.value.trim() || elsewhere.value.includes(lock.value.trim()))
        lock.value = known.value.find((one) => !elsewhere.value.includes(one)) ?? ''
    },
    { immediate: true },
  )
  /** The command that hangs the own tag; the lock is remembered at once, for with the tag the step that asked for it is over. */
  function hanging(measure: string) {
    const name = lock.value.trim()
    if (name) known.value = [name, ...known.value.filter((one) => one !== name)].slice(0, 6)
    return { type: 'hangTag' as const, tagId: newId(), breakerId: breakerId()!, lock: name, measure: measure.trim() }
  }
  return { lock, hanging }
}
