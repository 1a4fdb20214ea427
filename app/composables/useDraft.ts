/**
 * What somebody is writing outlives a reload, the way back and a dead phone: it is kept on this device, for this person, until
 * it was stored or is thrown away.
 * @param about what it is a draft of; another one is another draft
 */
export function useDraft<T extends object>(about: string, draft: Ref<T>) {
  const session = useSession()
  const key = `circuitry-draft ${session.viewer?.personId} ${about}`
  const empty = JSON.stringify(draft.value)
  /** When it was last written, if it was found here. */
  const foundAt = ref<string | null>(null)
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as { at: string; value: T } | null
    if (kept) {
      draft.value = kept.value
      foundAt.value = kept.at
    }
  } catch {
    // Written by another version: nothing to begin with.
  }
  function keep(value: T) {
    const text = JSON.stringify(value)
    try {
      if (text === empty) localStorage.removeItem(key)
      else localStorage.setItem(key, JSON.stringify({ at: new Date().toISOString(), value }))
    } catch {
      // No room on this device: it is still on the screen.
    }
  }
  watch(draft, keep, { deep: true, flush: 'post' })
  /** It was stored elsewhere: nothing is left to come back to. */
  const forget = () => localStorage.removeItem(key)
  function discard() {
    draft.value = JSON.parse(empty) as T
    foundAt.value = null
    forget()
  }
  return { foundAt, forget, discard }
}
