import type { DayFile, Proposal } from '../../core/dispatch'
import type { Travel } from '~/workers/day'
import type { SearchAnswer, SearchQuestion } from '~/workers/day-search'
import { searchesOn, wayIds, type WayId } from '~/utils/day-search'

/** Ways to plan a day, searched by several workers where the machine has them; the cheapest of each way is shown as it is found. */
export function useDaySearch(onFailed: (message: string) => void) {
  const ways = shallowRef<Partial<Record<WayId, { proposal: Proposal; done: boolean }>>>({})
  const searching = ref(false)
  const share = ref(0)
  let workers: Worker[] = []
  function stop() {
    for (const worker of workers) worker.terminate()
    workers = []
    searching.value = false
  }
  function forget() {
    stop()
    ways.value = {}
    share.value = 0
  }
  function fail(message: string) {
    onFailed(message)
    stop()
  }
  function plan(file: DayFile, now: number, travel: Travel) {
    forget()
    searching.value = true
    const { atOnce, seeds, seconds } = searchesOn(navigator.hardwareConcurrency || 2, travel.matrix.arrivals.byteLength)
    const waiting: SearchQuestion[] = Array.from({ length: seeds }, (_, seed) =>
      wayIds.map((id) => ({ ...{ file, travel, now, seconds, id }, seed: seed + 1 })),
    ).flat()
    const count = waiting.length
    const shares = new Map<SearchQuestion, number>()
    const least = new Map<WayId, number>()
    const running = new Map<WayId, number>(wayIds.map((id) => [id, seeds]))
    const tell = () => (share.value = [...shares.values()].reduce((sum, one) => sum + one, 0) / count)
    function take({ id, proposal, cost, done }: Extract<SearchAnswer, { is: 'way' }>) {
      if (done) running.set(id, running.get(id)! - 1)
      const known = ways.value[id]
      const better = cost < (least.get(id) ?? Infinity)
      if (better) least.set(id, cost)
      ways.value = { ...ways.value, [id]: { proposal: better || !known ? proposal : known.proposal, done: running.get(id) === 0 } }
    }
    function next(worker: Worker) {
      const question = waiting.shift()
      if (!question) {
        if ([...running.values()].every((left) => left === 0)) stop()
        return
      }
      worker.onmessage = ({ data }: MessageEvent<SearchAnswer>) => {
        if (data.is === 'progress') shares.set(question, data.share)
        else {
          take(data)
          if (data.done) {
            shares.set(question, 1)
            next(worker)
          }
        }
        tell()
      }
      worker.postMessage(question)
    }
    workers = Array.from({ length: Math.min(atOnce, count) }, () => {
      const worker = new Worker(new URL('../workers/day-search.ts', import.meta.url), { type: 'module' })
      worker.onerror = (event) => {
        event.preventDefault()
        fail(event.message || 'The day could not be planned.')
      }
      return worker
    })
    for (const worker of [...workers]) next(worker)
  }
  onScopeDispose(stop)
  return { ways, searching, share, plan, stop, forget }
}
