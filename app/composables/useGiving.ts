/** What a button gives to the server: busy until it has answered; what is wrong stands beside it. A second tap is no second order. */
export function useGiving() {
  const busy = ref(false)
  const problem = ref<Problem | null>(null)
  /** @returns the answer, or null where there was none */
  async function give<T>(ask: () => Promise<Answer<T>>): Promise<T | null> {
    if (busy.value) return null
    busy.value = true
    const answer = await ask()
    busy.value = false
    problem.value = answer.ok ? null : answer.problem
    return answer.ok ? answer.value : null
  }
  return { busy, problem, give }
}
