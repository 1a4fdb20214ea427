import type { Refusal } from '../../core/stream'
import type { Given } from './useJobRecord'

/** A button's life: busy while the server decides, then done or a refusal to show beside it. */
export function useAction() {
  const busy = ref(false)
  const refusal = ref<Refusal | null>(null)
  async function run(work: () => Promise<Given>): Promise<boolean> {
    if (busy.value) return false
    busy.value = true
    refusal.value = null
    try {
      const given = await work()
      refusal.value = given.refusal
      return given.ok
    } finally {
      busy.value = false
    }
  }
  return { busy, refusal, run }
}
