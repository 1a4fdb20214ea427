import type { HomeWays, SchoolId, Solution } from '../../core/plan'
import type { PlanAnswer, PlanQuestion } from '~/workers/plan'

export interface FoundPlan {
  ids: string[]
  weighed: number
  /** How far from the best it may be; null: nothing proven yet. */
  gap: number | null
  done: boolean
}
export interface CurveSpot {
  moneyCents: number
  comfort: number
  ids: string[]
}

/** Plans of a home, computed away from the page; the newest question counts. */
export function usePlanner() {
  let worker: Worker | null = null
  const ways = shallowRef<HomeWays | null>(null)
  const plans = shallowRef<Partial<Record<SchoolId, FoundPlan>>>({})
  const more = shallowRef<Partial<Record<SchoolId, string[]>>>({})
  const curve = shallowRef<CurveSpot[]>([])
  const busy = ref(false)
  const stopped = ref(false)
  const failed = ref(false)
  function end() {
    worker?.terminate()
    worker = null
    busy.value = false
  }
  /** Ways of the newest question, until its first plan is there: what was shown before stays as long, so that nothing jumps. */
  let coming: HomeWays | null = null
  function clear(next: HomeWays) {
    coming = null
    ways.value = next
    plans.value = {}
    more.value = {}
    curve.value = []
  }
  function take(answer: PlanAnswer) {
    if (answer.is === 'ways') {
      // Without a point there will be no plan to wait for.
      if (!answer.ways.problem.pointIds.length) clear(answer.ways)
      else coming = answer.ways
    } else if (answer.is === 'plan') {
      if (coming) clear(coming)
      plans.value = { ...plans.value, [answer.school]: answer }
    } else if (answer.is === 'more') more.value = { ...more.value, [answer.school]: answer.ids }
    else if (answer.is === 'curve') curve.value = [...curve.value, answer]
    else end()
  }
  function ask(question: PlanQuestion) {
    end()
    stopped.value = false
    failed.value = false
    busy.value = true
    coming = null
    worker = new Worker(new URL('../workers/plan.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<PlanAnswer>) => take(data)
    worker.onerror = (event) => {
      event.preventDefault()
      console.warn(event.message)
      failed.value = true
      end()
    }
    worker.postMessage(question)
  }
  /** What is found so far stays. */
  function stop() {
    stopped.value = true
    end()
  }
  const solutions = computed(() => new Map((ways.value?.problem.solutions ?? []).map((one) => [one.id, one])))
  const solutionsOf = (ids: string[] | undefined): Solution[] => (ids ?? []).flatMap((id) => solutions.value.get(id) ?? [])
  onScopeDispose(end)
  return { ask, stop, ways, plans, more, curve, busy, stopped, failed, solutionsOf }
}
