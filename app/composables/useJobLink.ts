import type { LinkDoing } from '../../core/link'

/** A link that takes nothing within this has not taken it: the server says so when it is asked again, ms. */
const givenUpMs = 62_000

/** How the devices of this job are reached, what was asked of the link, and asking it. */
export function useJobLink() {
  const { jobId } = injectJobRecord()
  const { answer, load } = useList('GET /api/jobs/:id/link', () => ({ params: { id: jobId } }), ['links'])
  const { busy, problem, give } = useGiving()
  const asks = computed(() => answer.value?.asks ?? [])
  const open = computed(() => asks.value.filter(({ state }) => state === 'waiting' || state === 'taken'))
  let looking: ReturnType<typeof setTimeout> | null = null
  watch(open, (now) => {
    if (looking) clearTimeout(looking)
    looking = now.length ? setTimeout(() => void load(), givenUpMs) : null
  })
  onScopeDispose(() => looking && clearTimeout(looking))
  return {
    link: computed(() => answer.value?.link ?? null),
    holds: computed(() => answer.value?.holds ?? false),
    busy,
    problem,
    newestOf: (unitId: string) => asks.value.find((one) => one.unitId === unitId) ?? null,
    /** What its meter read last. */
    traceOf: (unitId: string) => asks.value.find((one) => one.unitId === unitId && one.trace) ?? null,
    isAt: (unitId: string) => open.value.some((one) => one.unitId === unitId),
    ask: (unitId: string, doing: LinkDoing, said: { clear?: boolean; code?: string; anyway?: boolean } = {}) =>
      give(() => api('POST /api/jobs/:id/link', { params: { id: jobId }, body: { id: newId(), unitId, doing, ...said } })),
  }
}
