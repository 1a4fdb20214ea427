import type { DayFile, DayFileVisit, DayQuestion, Outlook, RoadMap } from '../../core/dispatch'
import type { DeskAnswer, DeskQuestion, OfferedWindow, Route, Travel, Tried } from '~/workers/day'

/** A day worked out away from the page: how it will go, what one more visit costs, and how it could be mended. */
export function useDayDesk() {
  const outlook = shallowRef<Outlook | null>(null)
  const crews = shallowRef<DayQuestion['crews']>([])
  const lost = shallowRef<string[]>([])
  const failed = ref<string | null>(null)
  const search = useDaySearch((message) => (failed.value = message))
  let travel: Travel | null = null
  let shown: { file: DayFile; now: number } | null = null
  const roads = shallowRef<RoadMap | null>(null)
  const worker = useWorker<{ question: DeskQuestion; answer: DeskAnswer }>(
    () => new Worker(new URL('../workers/day.ts', import.meta.url), { type: 'module' }),
  )
  /** What it says, or null once it was said that it failed. */
  async function ask<K extends DeskAnswer['is']>(question: DeskQuestion, is: K): Promise<Extract<DeskAnswer, { is: K }> | null> {
    const answer = await worker.ask(question).catch((error: Error): DeskAnswer => ({ is: 'failed', message: error.message }))
    failed.value = answer.is === 'failed' ? answer.message : null
    return answer.is === is ? (answer as Extract<DeskAnswer, { is: K }>) : null
  }
  /** @param now Seconds since 1970 on the day itself, else 0. */
  async function show(file: DayFile, now: number) {
    shown = { file, now }
    if (!roads.value) {
      const given = await api('GET /api/roads', {})
      if (!given.ok) return void (failed.value = given.problem.message)
      roads.value = given.value
    }
    const answer = await ask({ is: 'day', roads: roads.value, file, now }, 'outlook')
    if (!answer) return
    outlook.value = answer.outlook
    crews.value = answer.crews
    lost.value = answer.lost
    travel = answer.travel
  }
  /** Null where that failed: that nobody can come is another answer. */
  const windows = async (id: string): Promise<OfferedWindow[] | null> => (await ask({ is: 'windows', id }, 'windows'))?.offers ?? null
  /** Windows on a day for a visit that is booked. */
  const elsewhen = async (visit: DayFileVisit, home: DayFile['homes'][number], file: DayFile, now: number): Promise<OfferedWindow[]> =>
    (await ask({ is: 'elsewhen', visit, home, file, now }, 'windows'))?.offers ?? []
  const routes = async (): Promise<Route[]> => (await ask({ is: 'routes' }, 'routes'))?.routes ?? []
  const tryAt = async (id: string, crew: string, startAt: string): Promise<Tried | null> =>
    (await ask({ is: 'try', id, crew, startAt }, 'tried'))?.tried ?? null
  function plan() {
    if (shown && travel) search.plan(shown.file, shown.now, travel)
  }
  return { show, roads, routes, outlook, crews, lost, failed, windows, elsewhen, tryAt, ...search, plan }
}
