import type { Ref } from 'vue'
import type { DeviceModel } from '../../core/fit'
import { gtinIn, judgeScan, type Scan } from '../../core/stock/scan'

/**
 * A scanner in a serial field may catch the number of the article: it tells whether the carton is the right one, and is no serial.
 * Null: what was read is no number of an article of this branch.
 */
export function useCarton(jobId: string, read: () => string, model: () => DeviceModel | null) {
  const session = useSession()
  const { answer: picks } = useList('GET /api/jobs/:id/picks', () => ({ params: { id: jobId } }), ['catalogue'], {
    keptAs: () => `picks ${jobId}`,
  })
  const carton: Ref<Scan | null> = computed(() => {
    const known = (picks.value?.known ?? []) as Parameters<typeof judgeScan>[2]
    const chosen = model()
    if (!chosen || !gtinIn(read())) return null
    const scan = judgeScan(
      read(),
      known.filter(({ refId }) => refId === chosen.id),
      known,
      session.catalogue,
    )
    return scan.is === 'unknown' || scan.is === 'unreadable' ? null : scan
  })
  return carton
}
