import { api } from './api'
import { forgetJobs, keepValue, keptJobIds, keptValue } from './local-store'

const askedKey = 'erased asked'
/** Before this program knew of erasing nothing was erased. */
const first = '2026-01-01T00:00:00Z'

/** What this device kept of jobs in which something was erased while it was away is thrown away; open ones are read anew. */
export async function forgetErased(): Promise<void> {
  const kept = await keptJobIds()
  if (!kept.length) return
  const answer = await api('GET /api/erasures/jobs', { query: { after: (await keptValue<string>(askedKey)) ?? first } })
  if (!answer.ok) return
  const gone = new Set(answer.value.jobIds)
  await forgetJobs(kept.filter((id) => gone.has(id)))
  await keepValue(askedKey, answer.value.asOf)
}
