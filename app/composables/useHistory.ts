import type { HistoryLine } from '../../core/job'

/** A job's history, newest first, fetched again as its record grows. */
export function useHistory() {
  const { jobId, job, site, page } = injectJobRecord()
  const lines = ref<HistoryLine[]>([])
  const problem = ref<Problem | null>(null)
  async function load() {
    const answer = await api('GET /api/jobs/:id/history', { params: { id: jobId } })
    if (answer.ok) lines.value = answer.value.lines
    problem.value = answer.ok ? null : answer.problem
  }
  watchDebounced(() => [job.value?.seq, site.value?.seq, page.value], load, { debounce: 200, maxWait: 2_000, immediate: true })
  return { lines, problem }
}
