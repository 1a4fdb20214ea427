import type { WiringQuestion, WiringTalk } from '../workers/wiring'

/** A question about a box's wiring, answered in a worker. A newer question cancels the one that is being answered. */
export function useWiring(question: () => WiringQuestion | null) {
  const { put, ...answered } = useNewestAnswer<WiringTalk>(
    () => new Worker(new URL('../workers/wiring.ts', import.meta.url), { type: 'module' }),
    { cancels: true },
  )
  let last = ''
  const again = () => void put(JSON.parse(last) as WiringQuestion)
  watch(
    question,
    (value) => {
      if (!value) return
      // The same question once more is none: a record that changed elsewhere, a clock that ticked.
      const text = JSON.stringify(value)
      if (text === last) return
      last = text
      again()
    },
    { immediate: true, deep: true },
  )
  return { ...answered, again }
}
