import {
  asBooked,
  asSaidSeconds,
  isAway,
  bookedTwice,
  inTheWay,
  journey,
  manyDays,
  placeAt,
  breachesOf,
  hoursOf,
  nameOf,
  peopleOf,
  promiseOf,
  outlookOf,
  placesIn,
  questionOf,
  roadsFrom,
  timePlan,
  timetableOf,
  travelOf,
  vansTwice,
  windowsFor,
  type Change,
  type DayFile,
  type DayFileVisit,
  type DayQuestion,
  type Outlook,
  type Position,
  type RoadMap,
  type Roads,
  type TimedPlan,
  type Timetable,
  type WindowOffer,
} from '../../core/dispatch'

export type Travel = ReturnType<typeof travelOf>
/** What the desk is asked: the day first, then what one more visit or a visit elsewhere would do to it. */
export type DeskQuestion =
  | { is: 'day'; roads: RoadMap; file: DayFile; now: number }
  | { is: 'windows'; id: string }
  /** Windows on that day for a visit that is booked, on it or on another one. */
  | { is: 'elsewhen'; visit: DayFileVisit; home: DayFile['homes'][number]; file: DayFile; now: number }
  | { is: 'routes' }
  | { is: 'try'; id: string; crew: string; startAt: string }
export interface OfferedWindow {
  /** The visit as it would be booked, its window as its promise. */
  change: Change
  /** Visits beside it whose booked hours are set to what is expected. */
  also: Change[]
  /** Minutes on the road that it costs, or what is worth as many. */
  cost: number
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
  breaks: ('licence' | 'people' | 'skills' | 'pastLatest' | 'overtime' | 'tied' | 'twice' | 'away')[]
  /** The move itself; by hand it begins when it was put there, and takes as long as was booked. */
  change: Change
  /** Visits beside it whose booked hours are set to what is expected. */
  also: Change[]
}
export type DeskAnswer =
  | { is: 'outlook'; outlook: Outlook; lost: string[]; crews: DayQuestion['crews']; travel: Travel }
  | { is: 'windows'; offers: OfferedWindow[] }
  | { is: 'routes'; routes: Route[] }
  | { is: 'tried'; tried: Tried }
  | { is: 'failed'; message: string }

const iso = (seconds: number) => new Date(Math.round(seconds / 60) * 60_000).toISOString()
/** Windows that are offered are so long, and begin so far apart. */
const windowHours = 2

let known: { key: string; graph: Roads; table: Timetable; travel: Travel } | null = null
let day: { file: DayFile; now: number; graph: Roads; table: Timetable; travel: Travel } | null = null

/** The way between all homes is the same as long as the homes and the day are. */
function travelFor(file: DayFile, roads: RoadMap) {
  const key = JSON.stringify([file.date, file.zone, hoursOf(file), file.store, file.homes])
  if (known?.key !== key) {
    const graph = roadsFrom(roads)
    const table = timetableOf(graph, file.date, file.zone)
    known = { key, graph, table, travel: travelOf(file, graph, table) }
  }
  return known
}

function show({ file, now, roads }: Extract<DeskQuestion, { is: 'day' }>): DeskAnswer {
  const { graph, table, travel } = travelFor(file, roads)
  day = { file, now, graph, table, travel }
  const question = questionOf(file, travel, { asBooked: true, placing: false, now })
  return { is: 'outlook', outlook: outlookOf(question, asBooked(question)), lost: question.lost, crews: question.crews, travel }
}

/** Visits that give way to one that is put beside them without anybody noticing: who would begin much later than said is not quietly moved. */
const quietly = (question: DayQuestion, plan: TimedPlan, change: Change) =>
  inTheWay(question, plan, [change]).filter(
    ({ startAt, was }) => Math.abs(Date.parse(startAt) - Date.parse(was!.startAt)) <= asSaidSeconds * 1000,
  )

/** @param least So many people go at least. */
function windows({ file, now, travel }: NonNullable<typeof day>, id: string, least = 1): DeskAnswer {
  const question = questionOf(file, travel, { now, asBooked: true })
  const index = question.what.findIndex(({ open }) => open?.id === id)
  const visit = question.problem.visits[index]
  if (!visit) return { is: 'windows', offers: [] }
  const hour = 3600
  const first = Math.ceil(Math.max(0, Math.min(...question.problem.crews.map(({ from }) => from))) / hour) * hour
  const last = Date.parse(file.shift.to) / 1000 - question.begin
  const spans = Array.from({ length: 14 }, (_, step) => first + step * hour)
    .filter((from) => from < last)
    .map((from) => ({ from, to: from + windowHours * hour }))
  /** As it would be booked, and what gives way to it. */
  const changeFor = ({ problem, plan, crews, from, to, start, end }: WindowOffer) => {
    // The day has it twice now: as what waits, and as what is asked for.
    const asked = { ...question, problem, what: [...question.what, question.what[index]!] }
    const hours = { startAt: iso(question.begin + start), endAt: iso(question.begin + end) }
    const change: Change = {
      ...nameOf(question, index),
      ...{ was: null, breaksPromise: false, quiet: false },
      personIds: peopleOf(question, crews, hours),
      ...hours,
      windowFrom: iso(question.begin + from),
      windowTo: iso(question.begin + to),
    }
    return { change, also: quietly(asked, plan, change) }
  }
  /** A promise is one that holds on four of five days, and for which nobody is booked twice. */
  const fits = (offer: WindowOffer) => {
    const { change, also } = changeFor(offer)
    if (change.personIds.length < least || isTwice(file, change, also)) return false
    const spread = (one: number) => question.spread(one < question.what.length ? one : index)
    const many = manyDays(offer.problem, offer.plan.routes, { runs: 100, spread })
    return (many.visits.at(-1)?.late ?? 1) <= 0.2
  }
  // Three that differ: no two that begin within an hour of each other.
  const kept: WindowOffer[] = []
  for (const one of windowsFor(question.problem, question.booked, visit, spans, { most: spans.length, fits }))
    if (kept.length < 3 && kept.every(({ from }) => Math.abs(from - one.from) > hour)) kept.push(one)
  return {
    is: 'windows',
    offers: kept
      .sort((a, b) => a.from - b.from)
      .map((offer) => {
        const { change, also } = changeFor(offer)
        return { change, also, cost: offer.cost }
      }),
  }
}

/** Would somebody, or a van, be in two places, by what is booked? */
function isTwice(file: DayFile, change: Change, also: Change[]): boolean {
  const booking = ({ id, siteId, personIds, startAt, endAt }: Change) => ({ id, siteId, personIds, startsAt: startAt, endsAt: endAt })
  const rest = file.visits.filter(({ id, status }) => status !== 'done' && id !== change.id && !also.some((one) => one.id === id))
  const bookings = [...rest, booking(change), ...also.map(booking)]
  return [...bookedTwice(bookings), ...vansTwice(bookings, file.people)].some(({ first, second }) => [first, second].includes(change.id))
}

/** Turn by turn, as it is booked. */
function routes({ file, now, travel, graph, table }: NonNullable<typeof day>): DeskAnswer {
  const question = questionOf(file, travel, { asBooked: true, placing: false, now })
  const positions = new Map(file.homes.map(({ siteId, position }) => [siteId, position]))
  const at = (siteId: string) => {
    const position = positions.get(siteId)
    return position ? placeAt(graph, position) : null
  }
  const store = file.store && placeAt(graph, file.store)
  const plan = asBooked(question)
  return {
    is: 'routes',
    routes: plan.crews.flatMap(({ stops }, crew): Route[] => {
      const done = file.visits.filter(({ status, personIds }) => status !== 'planned' && personIds.includes(question.crews[crew]!.id))
      const last = done.sort((a, b) => a.startsAt.localeCompare(b.startsAt)).at(-1)
      let place = last ? at(last.siteId) : store
      const line: Position[] = []
      let metres = 0
      for (const { visit, leave } of stops) {
        const next = at(nameOf(question, visit).siteId)
        const way = place && next ? journey(table, place, next, question.begin + leave) : null
        if (way) {
          line.push(...way.line)
          metres += way.metres
        }
        place = next
      }
      return line.length ? [{ crew: question.crews[crew]!.id, line, metres }] : []
    }),
  }
}

function attempt({ file, now, travel }: NonNullable<typeof day>, id: string, crewId: string, startAt: string): DeskAnswer {
  const question = questionOf(file, travel, { asBooked: true, now })
  const index = question.what.findIndex(({ booked }) => booked?.id === id)
  const booked = question.what[index]?.booked
  const crew = question.crews.findIndex((one) => one.id === crewId)
  if (!booked || crew < 0) return { is: 'failed', message: 'This visit is not one of this day any more.' }
  const start = Date.parse(startAt) / 1000 - question.begin
  // The others where they are; it where it is dropped.
  const routes = question.booked.map((route) => route.filter((one) => one !== index))
  const at = routes[crew]!.findIndex((one) => question.problem.visits[one]!.from > start)
  routes[crew]!.splice(at < 0 ? routes[crew]!.length : at, 0, index)
  // Moved by hand it is asked for all that it takes; what was lacking before is told, too.
  const { needs } = booked
  const visits = question.problem.visits.map((one, which) =>
    which === index ? { ...one, from: start, skills: needs.skills, people: Math.max(one.people, needs.people) } : one,
  )
  const moved = { ...question, problem: { ...question.asIs, visits } }
  const plan = timePlan(moved.problem, routes, true)
  if (!plan) return { is: 'failed', message: 'Crews would wait for each other.' }
  const before = new Set(lateIn(question, asBooked(question)).map((one) => one.id))
  const elsewhere = !booked.personIds.includes(crewId)
  const kept = Date.parse(startAt) >= Date.parse(booked.windowFrom) && Date.parse(startAt) <= Date.parse(booked.windowTo)
  const { windowFrom, windowTo } = kept ? booked : promiseOf(question.begin + start)
  const endAt = new Date(Date.parse(startAt) + Date.parse(booked.endsAt) - Date.parse(booked.startsAt)).toISOString()
  const change: Change = {
    ...nameOf(question, index),
    was: { personIds: booked.personIds, startAt: booked.startsAt },
    personIds: elsewhere ? peopleOf(question, [crew], { startAt, endAt }) : booked.personIds,
    ...{ startAt, endAt },
    ...{ windowFrom, windowTo, breaksPromise: !kept, quiet: false },
  }
  const also = quietly(moved, plan, change)
  const rules = breachesOf(moved.problem, plan)
    .filter((breach) => breach.visit === index || (breach.crew === crew && breach.visit === null))
    .flatMap(({ rule }) =>
      rule === 'licence' || rule === 'people' || rule === 'skills' || rule === 'pastLatest' || rule === 'overtime' ? [rule] : [],
    )
  const leaves = booked.tied && elsewhere ? (['tied'] as const) : []
  const twice = isTwice(file, change, also) ? (['twice'] as const) : []
  const gone = change.personIds.some((one) => isAway(file.away, one, change.startAt, change.endAt)) ? (['away'] as const) : []
  return {
    is: 'tried',
    tried: {
      late: lateIn(moved, plan).filter((one) => one.id === id || !before.has(one.id)),
      breaks: [...new Set([...rules, ...leaves, ...twice, ...gone])],
      change,
      also,
    },
  }
}
const lateIn = (question: DayQuestion, plan: TimedPlan) =>
  [...placesIn(plan)].flatMap(([visit, { start }]) => {
    const minutes = (start - question.problem.visits[visit]!.to) / 60
    return minutes > 0.5 ? [{ id: nameOf(question, visit).id, minutes }] : []
  })

/** As if it were not booked yet. */
function elsewhen({ visit, home, file, now }: Extract<DeskQuestion, { is: 'elsewhen' }>): DeskAnswer {
  const { id, jobId, siteId, kind, callbackId, startsAt, minutes, spread, personIds } = visit
  const waits = {
    id,
    jobId,
    siteId,
    kind,
    callbackId,
    since: startsAt,
    by: null,
    minutes,
    spread,
    needs: visit.needs,
    partsIn: visit.partsIn,
    lacks: null,
  }
  const without: DayFile = {
    ...file,
    visits: file.visits.filter((one) => one.id !== id),
    open: [...file.open, waits],
    homes: [...file.homes.filter((one) => one.siteId !== siteId), home],
  }
  const { graph } = day!
  const table = timetableOf(graph, file.date, file.zone)
  const answer = windows({ file: without, now, graph, table, travel: travelOf(without, graph, table) }, id, personIds.length)
  const was = { personIds, startAt: startsAt }
  return answer.is === 'windows' ? { ...answer, offers: answer.offers.map((one) => ({ ...one, change: { ...one.change, was } })) } : answer
}

function answerTo(question: DeskQuestion): DeskAnswer {
  if (question.is === 'day') return show(question)
  if (!day) return { is: 'failed', message: 'No day is worked out yet.' }
  if (question.is === 'windows') return windows(day, question.id)
  if (question.is === 'elsewhen') return elsewhen(question)
  return question.is === 'routes' ? routes(day) : attempt(day, question.id, question.crew, question.startAt)
}

self.onmessage = ({ data: { id, question } }: MessageEvent<{ id: number; question: DeskQuestion }>) => {
  let answer: DeskAnswer
  try {
    answer = answerTo(question)
  } catch (error) {
    answer = { is: 'failed', message: (error as Error).message }
  }
  self.postMessage({ id, answer })
}
