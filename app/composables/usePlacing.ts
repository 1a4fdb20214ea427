import { placeConductor, placeJumper, type PlaceTarget, type WiringPlan } from '../../core/wiring'

interface Laying {
  /** The record's plan, as others made it too. */
  plan(): WiringPlan | null
  /** What may be laid anew, or null while nothing may. */
  layable(): WiringPlan | null
  /** While a change is on its way the record does not say the same yet. */
  busy(): boolean
  /** What conductors are is still being found out: two that are picked are a pair to read. */
  reading(): boolean
  looksOnly(): boolean
  store(plan: WiringPlan | null): void
}

/** Conductors and jumpers laid by tap: what is picked, what is in the hand, and what was laid and is not recorded yet. */
export function usePlacing({ plan, layable, busy, reading, looksOnly, store }: Laying) {
  const picked = ref<string[]>([])
  /** A terminal in the hand: the next end that is tapped gets a jumper from it, or loses it. */
  const held = ref<string | null>(null)
  /** What was just laid, until the record says the same, or refuses. */
  const draft = ref<WiringPlan | null>(null)
  watch([plan, busy], () => {
    if (!busy()) draft.value = null
  })
  // What was pointed at to be read is not what is in the hand to be laid.
  watch(reading, () => (picked.value = []))

  function change(to: WiringPlan | null) {
    picked.value = []
    held.value = null
    draft.value = to
    store(to)
  }
  function lay(letter: string, target: PlaceTarget) {
    const from = layable()
    if (from) change(placeConductor(from, letter, target))
  }
  function jump(to: string) {
    const from = layable()
    if (from && held.value) change(placeJumper(from, held.value, to))
  }
  function pick(letter: string) {
    if (!reading() && looksOnly()) return
    if (held.value) jump(letter)
    else if (picked.value.includes(letter)) picked.value = picked.value.filter((one) => one !== letter)
    else if (!reading() && picked.value.length === 1) lay(picked.value[0]!, { kind: 'letter', letter })
    else picked.value = [...picked.value.slice(-1), letter]
  }
  function place(target: PlaceTarget) {
    if (picked.value.length === 1) lay(picked.value[0]!, target)
    else if (target.kind === 'terminal' && layable()) {
      const end = `${target.part}:${target.key}`
      if (held.value && held.value !== end) jump(end)
      else held.value = held.value ? null : end
    }
  }
  return { picked, held, draft, change, lay, pick, place }
}
