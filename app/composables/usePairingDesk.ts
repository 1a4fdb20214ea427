import { pairingDesk, type CompanyPairing } from '../../core/job'

/** What waits to be paired, as it burns down: every second while windows are looked at. */
export function usePairingDesk() {
  const { job, site } = injectJobRecord()
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
  const desk = computed(() => (job.value && site.value ? pairingDesk(job.value, site.value, now.value, company.value) : null))
  return { now, desk }
}
