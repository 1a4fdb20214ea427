import type { WiringAnswer, WiringQuestion } from '../workers/wiring'

/** A question about a box's wiring, answered in a worker. A newer question cancels the one that is being answered. */
export function useWiring(question: () => Omit<WiringQuestion, 'id'> | null) {
  const answer = shallowRef<WiringAnswer | null>(null)
  const thinking = ref(false)
  let asked = 0
  let last = ''
  let worker: Worker | null = null
  function open(): Worker {
    const fresh = new Worker(new URL('../workers/wiring.ts', import.meta.url), { type: 'module' })
    fresh.onmessage = ({ data }: MessageEvent<WiringAnswer>) => {
      if (data.id !== asked) return
      answer.value = data
      thinking.value = false
    }
    return fresh
  }
  watch(
    question,
    (value) => {
      if (!value) return
      // The same question once more is none: a record that changed elsewhere, a clock that ticked.
      const text = JSON.stringify(value)
      if (text === last) return
      last = text
      if (thinking.value) {
        worker?.terminate()
        worker = null
      }
      thinking.value = true
      worker ??= open()
      worker.postMessage({ ...(JSON.parse(text) as WiringQuestion), id: ++asked })
    },
    { immediate: true, deep: true },
  )
  onScopeDispose(() => worker?.terminate())
  return { answer, thinking }
}
