import type { DayFile, DayQuestion, Outlook, Proposal, RoadMap } from '../../core/dispatch'
import type { DeskAnswer, DeskQuestion, OfferedWindow, Route, Travel, Tried } from '~/workers/day'
import type { SearchAnswer, WayId } from '~/workers/day-search'

/** Seconds that each way of planning a day is searched. */
const secondsEach = 4

/** A day worked out away from the page: how it will go, what one more visit costs, and how it could be mended. */
export function useDayDesk() {
  const outlook = shallowRef<Outlook | null>(null)
  const crews = shallowRef<DayQuestion['crews']>([])
  const lost = shallowRef<string[]>([])
  const failed = ref<string | null>(null)
  const ways = shallowRef<Partial<Record<WayId, { proposal: Proposal; done: boolean }>>>({})
  const searching = ref(false)
  const share = ref(0)
  let desk: Worker | null = null
  let search: Worker | null = null
  let travel: Travel | null = null
  let shown: { file: DayFile; now: number } | null = null
  let asked = 0
  const roads = shallowRef<RoadMap | null>(null)
  const waiting = new Map<number, (answer: DeskAnswer) => void>()

  function take(answer: DeskAnswer) {
    if (answer.is === 'outlook') {
      outlook.value = answer.outlook
      crews.value = answer.crews
      lost.value = answer.lost
      travel = answer.travel
      failed.value = null
    } else if (answer.is === 'failed') failed.value = answer.message
    else {
      waiting.get(answer.asked)?.(answer)
      waiting.delete(answer.asked)
    }
  }
  const tell = (question: DeskQuestion) => desk?.postMessage(question)
  /** @param now Seconds since 1970 on the day itself, else 0. */
  async function show(file: DayFile, now: number) {
    if (!desk) {
      desk = new Worker(new URL('../workers/day.ts', import.meta.url), { type: 'module' })
      desk.onmessage = ({ data }: MessageEvent<DeskAnswer>) => take(data)
      desk.onerror = (event) => {
        event.preventDefault()
        failed.value = event.message || 'The day could not be worked out.'
      }
    }
    shown = { file: plainCopy(file), now }
    if (roads.value) return void tell({ is: 'day', roads: null, ...shown })
    const given = await api('GET /api/roads', {})
    if (!given.ok) return void (failed.value = given.problem.message)
    roads.value = given.value
    tell({ is: 'day', roads: plainCopy(given.value), ...shown })
  }
  const ask = <A>(question: (asked: number) => DeskQuestion, of: (answer: DeskAnswer) => A): Promise<A> =>
    new Promise((resolve) => {
      asked++
      waiting.set(asked, (answer) => resolve(of(answer)))
      tell(question(asked))
    })
  const windows = (id: string): Promise<OfferedWindow[]> =>
    ask(
      (number) => ({ is: 'windows', asked: number, id }),
      (answer) => (answer.is === 'windows' ? answer.offers : []),
    )
  const routes = (): Promise<Route[]> =>
    ask(
      (number) => ({ is: 'routes', asked: number }),
      (answer) => (answer.is === 'routes' ? answer.routes : []),
    )
  const tryAt = (id: string, crew: string, startAt: string): Promise<Tried | null> =>
    ask(
      (number) => ({ is: 'try', asked: number, id, crew, startAt }),
      (answer) => (answer.is === 'tried' ? answer.tried : null),
    )
  function stop() {
    search?.terminate()
    search = null
    searching.value = false
  }
  function plan() {
    stop()
    if (!shown || !travel) return
    ways.value = {}
    share.value = 0
    searching.value = true
    search = new Worker(new URL('../workers/day-search.ts', import.meta.url), { type: 'module' })
    search.onmessage = ({ data }: MessageEvent<SearchAnswer>) => {
      if (data.is === 'way') ways.value = { ...ways.value, [data.id]: { proposal: data.proposal, done: data.done } }
      else if (data.is === 'progress') share.value = data.share
      else stop()
    }
    search.onerror = (event) => {
      event.preventDefault()
      failed.value = event.message || 'The day could not be planned.'
      stop()
    }
    search.postMessage({ ...shown, travel, seconds: secondsEach })
  }
  function forget() {
    stop()
    ways.value = {}
  }
  onScopeDispose(() => {
    stop()
    desk?.terminate()
  })
  return { show, roads, routes, outlook, crews, lost, failed, windows, tryAt, plan, stop, forget, ways, searching, share }
}
/** Without anything that is watched. */
const plainCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
