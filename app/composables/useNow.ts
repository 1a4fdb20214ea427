/** The server's time as ISO, ticking every few seconds: proofs expire by it, not by this device's clock. */
export function useNow() {
  const session = useSession()
  // Whichever says later: this device's clock, or the time since the server's last answer. Nobody turns time back.
  let answer = 0
  let base = 0
  function serverNow() {
    if (session.answeredAt !== answer || base === 0) {
      answer = session.answeredAt
      base = Date.now() + session.clockOffset - (performance.now() - (answer || performance.now()))
    }
    return answer ? Math.max(Date.now() + session.clockOffset, base + performance.now() - answer) : Date.now() + session.clockOffset
  }
  const now = ref(serverNow())
  const timer = setInterval(() => (now.value = serverNow()), 5000)
  onScopeDispose(() => clearInterval(timer))
  return { now, serverNow, nowIso: computed(() => new Date(now.value).toISOString()) }
}
