import {
  asBooked,
  asSaidSeconds,
  bookedTwice,
  inTheWay,
  journey,
  manyDays,
  placeAt,
  breachesOf,
  hoursOf,
  outlookOf,
  placesIn,
  questionOf,
  roadsFrom,
  timePlan,
  timetableOf,
  travelOf,
  windowsFor,
  type Change,
  type DayFile,
  type DayQuestion,
  type Outlook,
  type Position,
  type RoadMap,
  type TimedPlan,
  type WindowOffer,
} from '../../core/dispatch'

export type Travel = ReturnType<typeof travelOf>
/** What the desk is asked: the day first, then what one more visit or a visit elsewhere would do to it. */
export type DeskQuestion =
  | { is: 'day'; roads: RoadMap | null; file: DayFile; now: number }
  | { is: 'windows'; asked: number; id: string }
  | { is: 'routes'; asked: number }
  | { is: 'try'; asked: number; id: string; crew: string; startAt: string }
export interface OfferedWindow {
  from: string
  to: string
  startAt: string
  endAt: string
  personIds: string[]
  /** Minutes on the road that it costs, or what is worth as many. */
  cost: number
  /** Visits beside it whose booked hours are set to what is expected. */
  also: Change[]
}
/** The way of a crew, from where it is now to its day’s end. */
export interface Route {
  crew: string
  line: Position[]
  metres: number
}
/** What a visit would do there. */
export interface Tried {
  /** It, and who comes after it: begin so many minutes after their promise. */
  late: { id: string; minutes: number }[]
  /** Rules that break. */
  breaks: ('licence' | 'people' | 'pastLatest' | 'overtime' | 'tied' | 'twice')[]
  startAt: string
  endAt: string
  /** Visits beside it whose booked hours are set to what is expected. */
  also: Change[]
}
export type DeskAnswer =
  | { is: 'outlook'; outlook: Outlook; lost: string[]; crews: DayQuestion['crews']; travel: Travel }
  | { is: 'windows'; asked: number; offers: OfferedWindow[] }
  | { is: 'routes'; asked: number; routes: Route[] }
  | { is: 'tried'; asked: number; tried: Tried }
  | { is: 'failed'; message: string }

const say = (answer: DeskAnswer) => self.postMessage(answer)
const iso = (seconds: number) => new Date(Math.round(seconds / 60) * 60_000).toISOString()
/** Windows that are offered are so long, and begin so far apart. */
const windowHours = 2

let roads: RoadMap | null = null
let known: { key: string; travel: Travel } | null = null
let day: { file: DayFile; now: number; travel: Travel } | null = null

/** The way between all homes is the same as long as the homes and the day are. */
function travelFor(file: DayFile): Travel {
  const key = JSON.stringify([file.date, file.zone, hoursOf(file), file.store, file.homes])
  if (known?.key !== key) {
    const graph = roadsFrom(roads!)
    known = { key, travel: travelOf(file, graph, timetableOf(graph, file.date, file.zone)) }
  }
  return known.travel
}

function show(file: DayFile, now: number) {
  const travel = travelFor(file)
  day = { file, now, travel }
  const question = questionOf(file, travel, { asBooked: true, placing: false, now })
  say({ is: 'outlook', outlook: outlookOf(question, asBooked(question)), lost: question.lost, crews: question.crews, travel })
}

const asSaid = ({ startAt, was }: Change) => Math.abs(Date.parse(startAt) - Date.parse(was!.startAt)) <= asSaidSeconds * 1000

/** A visit put where it is meant to be, as a change of the day, and what has to give way to it without anybody noticing. */
function placed(question: DayQuestion, plan: TimedPlan, index: number, crews: number[]): { change: Change; also: Change[] } {
  const { booked, open } = question.what[index]!
  const { id, jobId, siteId, kind } = (booked ?? open)!
  const { start, end } = placesIn(plan).get(index)!
  const change: Change = {
    ...{ id, jobId, siteId, kind, was: null, breaksPromise: false, quiet: false },
    callbackId: (booked ?? open)!.callbackId,
    personIds: crews.flatMap((crew) => question.crews[crew]!.personIds),
    startAt: iso(question.begin + start),
    endAt: iso(question.begin + end),
    windowFrom: iso(question.begin + question.problem.visits[index]!.from),
    windowTo: iso(question.begin + question.problem.visits[index]!.to),
  }
  // Who would begin much later than said is not quietly moved.
  const also = inTheWay(question, plan, [change]).filter(asSaid)
  return { change, also }
}

function windows(asked: number, id: string) {
  const { file, now, travel } = day!
  const question = questionOf(file, travel, { now, asBooked: true })
  const index = question.what.findIndex(({ open }) => open?.id === id)
  const visit = question.problem.visits[index]
  if (!visit) return say({ is: 'windows', asked, offers: [] })
  const hour = 3600
  const first = Math.ceil(Math.max(0, Math.min(...question.problem.crews.map(({ from }) => from))) / hour) * hour
  const last = Date.parse(file.shift.to) / 1000 - question.begin
  const spans = Array.from({ length: 14 }, (_, step) => first + step * hour)
    .filter((from) => from < last)
    .map((from) => ({ from, to: from + windowHours * hour }))
  const offers = spans
    .flatMap((span) => {
      // Where the cheapest crew would be booked twice, by the hours of its visits, another one is asked.
      let left = question.crews.map((_, crew) => crew)
      for (;;) {
        const [offer] = windowsFor(question.problem, question.booked, { ...visit, pinned: left }, [span], 1)
        if (!offer) return []
        const offered = offeredBy(question, index, offer)
        if (offered) return [{ ...offered, at: span.from }]
        left = left.filter((crew) => !offer.crews.includes(crew))
      }
    })
    .sort((a, b) => a.cost - b.cost)
  // Three that differ: no two that begin within an hour of each other.
  const kept: typeof offers = []
  for (const one of offers) if (kept.length < 3 && kept.every(({ at }) => Math.abs(at - one.at) > hour)) kept.push(one)
  say({ is: 'windows', asked, offers: kept.sort((a, b) => a.at - b.at).map(({ at: _, ...offer }) => offer) })
}

/** A window as it can be promised, or null: it holds on four of five days, and nobody is booked twice for it. */
function offeredBy(question: DayQuestion, index: number, offer: WindowOffer): OfferedWindow | null {
  const visits = question.problem.visits.map((one, which) => (which === index ? { ...one, from: offer.from, to: offer.to } : one))
  const asked = { ...question, problem: { ...question.problem, visits } }
  const routes = question.booked.map((route, crew) => {
    const spot = offer.placing.at.find((one) => one.crew === crew)
    return spot ? route.toSpliced(spot.position, 0, index) : route
  })
  const plan = timePlan(asked.problem, routes, true)
  const many = plan && manyDays(asked.problem, routes, { runs: 100, spread: question.spread })
  if (!plan || (many!.visits[index]?.late ?? 1) > 0.2) return null
  const { change, also } = placed(asked, plan, index, offer.crews)
  if (isTwice(question.file, change, also)) return null
  const { personIds, startAt, endAt, windowFrom: from, windowTo: to } = change
  return { from, to, startAt, endAt, personIds, cost: offer.cost, also }
}

/** Would somebody be in two places, by what is booked? */
function isTwice(file: DayFile, change: Change, also: Change[]): boolean {
  const booking = ({ id, personIds, startAt, endAt }: Change) => ({ id, personIds, startsAt: startAt, endsAt: endAt })
  const rest = file.visits.filter(({ id, status }) => status !== 'done' && id !== change.id && !also.some((one) => one.id === id))
  return bookedTwice([...rest, booking(change), ...also.map(booking)]).some(({ first, second }) => [first, second].includes(change.id))
}

/** Turn by turn, as it is booked. */
function routes(asked: number) {
  const { file, now, travel } = day!
  const question = questionOf(file, travel, { asBooked: true, placing: false, now })
  const graph = roadsFrom(roads!)
  const table = timetableOf(graph, file.date, file.zone)
  const positions = new Map(file.homes.map(({ siteId, position }) => [siteId, position]))
  const at = (siteId: string) => {
    const position = positions.get(siteId)
    return position ? placeAt(graph, position) : null
  }
  const store = file.store && placeAt(graph, file.store)
  const plan = asBooked(question)
  say({
    is: 'routes',
    asked,
    routes: plan.crews.flatMap(({ stops }, crew): Route[] => {
      const done = file.visits.filter(({ status, personIds }) => status !== 'planned' && personIds.includes(question.crews[crew]!.id))
      const last = done.sort((a, b) => a.startsAt.localeCompare(b.startsAt)).at(-1)
      let place = last ? at(last.siteId) : store
      const line: Position[] = []
      let metres = 0
      for (const { visit, leave } of stops) {
        const next = at((question.what[visit]!.booked ?? question.what[visit]!.open)!.siteId)
        const way = place && next ? journey(table, place, next, question.begin + leave) : null
        if (way) {
          line.push(...way.line)
          metres += way.metres
        }
        place = next
      }
      return line.length ? [{ crew: question.crews[crew]!.id, line, metres }] : []
    }),
  })
}

function attempt(asked: number, id: string, crewId: string, startAt: string) {
  const { file, now, travel } = day!
  const question = questionOf(file, travel, { asBooked: true, now })
  const index = question.what.findIndex(({ booked, open }) => (booked ?? open)!.id === id)
  const crew = question.crews.findIndex((one) => one.id === crewId)
  const visit = question.problem.visits[index]
  if (!visit || crew < 0) return say({ is: 'failed', message: 'This visit is not one of this day any more.' })
  const start = Date.parse(startAt) / 1000 - question.begin
  // The others where they are; it where it is dropped.
  const routes = question.booked.map((route) => route.filter((one) => one !== index))
  const at = routes[crew]!.findIndex((one) => question.problem.visits[one]!.from > start)
  routes[crew]!.splice(at < 0 ? routes[crew]!.length : at, 0, index)
  const problem = {
    ...question.problem,
    visits: question.problem.visits.map((one, which) => (which === index ? { ...one, from: start } : one)),
  }
  const plan = timePlan(problem, routes, true)
  if (!plan) return say({ is: 'failed', message: 'Crews would wait for each other.' })
  const before = new Set(lateIn(question, asBooked(questionOf(file, travel, { asBooked: true, now }))).map((one) => one.id))
  const late = lateIn({ ...question, problem }, plan).filter((one) => one.id === id || !before.has(one.id))
  const { booked } = question.what[index]!
  const breaks = breachesOf(problem, plan)
    .filter((breach) => breach.visit === index || (breach.crew === crew && breach.visit === null))
    .flatMap(({ rule }) => (rule === 'licence' || rule === 'people' || rule === 'pastLatest' || rule === 'overtime' ? [rule] : []))
  const moved = booked && !question.crews[crew]!.personIds.includes(booked.personIds[0]!)
  const { change } = placed({ ...question, problem }, plan, index, [crew])
  // By hand it begins when it was put there, and takes as long as was booked.
  const length = booked ? Date.parse(booked.endsAt) - Date.parse(booked.startsAt) : visit.seconds * 1000
  const byHand = { ...change, startAt, endAt: new Date(Date.parse(startAt) + length).toISOString() }
  const near = inTheWay({ ...question, problem }, plan, [byHand]).filter(asSaid)
  say({
    is: 'tried',
    asked,
    tried: {
      late,
      breaks: [
        ...new Set([
          ...breaks,
          ...(booked?.tied && moved ? (['tied'] as const) : []),
          ...(isTwice(file, byHand, near) ? (['twice'] as const) : []),
        ]),
      ],
      startAt: change.startAt,
      endAt: change.endAt,
      also: near,
    },
  })
}
const lateIn = ({ problem, what }: Pick<DayQuestion, 'problem' | 'what'>, plan: TimedPlan) =>
  [...placesIn(plan)].flatMap(([visit, { start }]) => {
    const minutes = (start - problem.visits[visit]!.to) / 60
    return minutes > 0.5 ? [{ id: (what[visit]!.booked ?? what[visit]!.open)!.id, minutes }] : []
  })

self.onmessage = ({ data }: MessageEvent<DeskQuestion>) => {
  try {
    if (data.is === 'day') {
      roads = data.roads ?? roads
      show(data.file, data.now)
    } else if (!day) return
    else if (data.is === 'windows') windows(data.asked, data.id)
    else if (data.is === 'routes') routes(data.asked)
    else attempt(data.asked, data.id, data.crew, data.startAt)
  } catch (error) {
    say({ is: 'failed', message: (error as Error).message })
  }
}
