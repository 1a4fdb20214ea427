import type { Refusal } from '../../core/stream'
import type { Submission } from './useJobRecord'

/** A button's life: busy while the server decides, then done or a refusal to show beside it. */
export function useAction() {
  /** Being decided or waiting for it. */
  const open = ref(0)
  const busy = computed(() => open.value > 0)
  const refusal = ref<Refusal | null>(null)
  let last: Promise<unknown> = Promise.resolve()

  /** One change after the other, in the order they were made: a slow line loses none. A refusal stays until all are decided. */
  function inTurn(work: () => Promise<Submission>): Promise<boolean> {
    const before = busy.value ? last : null
    if (!before) refusal.value = null
    open.value++
    const mine = (async () => {
      try {
        // With nothing before it the work begins at once: what it reads from the screen is what was on it at the tap.
        if (before) await before
        const submission = await work()
        refusal.value = submission.refusal ?? refusal.value
        return submission.ok
      } finally {
        open.value--
      }
    })()
    last = mine.catch(() => undefined)
    return mine
  }
  /** While something is being decided, a second tap is no second order. */
  const run = async (work: () => Promise<Submission>): Promise<boolean> => !busy.value && inTurn(work)
  return { busy, refusal, run, inTurn }
}
