import { pairingDesk, type CompanyPairing } from '../../core/job'

/** Windows are shown by the second; which is first is worked out so often, and whenever the record changes, ms. */
const orderEveryMs = 10_000

/** What waits to be paired, as it burns down. */
export function usePairingDesk() {
  const { job, site, asker } = injectJobRecord()
  const { serverNow } = useNow()
  const now = ref(serverNow())
  const ticking = setInterval(() => (now.value = serverNow()), 1000)
  onScopeDispose(() => clearInterval(ticking))
  /** What the company has learnt; without it what is usual counts. */
  const company = shallowRef<CompanyPairing | null>(null)
  onMounted(async () => {
    const answer = await api('GET /api/pairings')
    if (answer.ok) company.value = answer.value
  })
  const at = computed(() => Math.floor(now.value / orderEveryMs))
  const desk = computed(() => {
    void at.value
    return job.value && site.value ? pairingDesk(job.value, site.value, serverNow(), asker.value.personId, company.value) : null
  })
  return { now, desk }
}
