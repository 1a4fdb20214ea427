/** A page that somebody without an account opens by its link: what it shows, or what is wrong. Asked again, the last one stands meanwhile. */
export function useLinkedPage<T>(ask: (token: string) => Promise<Answer<T>>) {
  const token = String(useRoute().params.token)
  const page = shallowRef<T | null>(null)
  const problem = ref<Problem | null>(null)
  async function load() {
    const answer = await ask(token)
    page.value = answer.ok ? answer.value : page.value
    problem.value = answer.ok ? null : answer.problem
  }
  onMounted(load)
  return { token, page, problem, load }
}
