/** The server's time as ISO, ticking every few seconds: proofs expire by it, not by this device's clock. */
export function useNow() {
  const session = useSession()
  const now = ref(Date.now() + session.clockOffset)
  const timer = setInterval(() => (now.value = Date.now() + session.clockOffset), 5000)
  onScopeDispose(() => clearInterval(timer))
  return { now, nowIso: computed(() => new Date(now.value).toISOString()) }
}
