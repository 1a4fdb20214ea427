import { workedParts } from '../away'
import { timePlan, usualWeights, type DayCrew, type DayProblem, type DayVisit, type DayWeights } from '../plan'
import { leavesAt } from '../promise/late'
import { arrivalIn, placeAt, travelMatrix, type Place, type Roads, type Timetable, type TravelMatrix } from '../travel'
import { comersOf, partsOf } from './absent'
import { crewsOf, vanTurns, type BoardCrew } from './crews'
import type { DayFile, DayFileOpen, DayFileVisit } from './day-file'

/** Of a job that waits, and of a callback: points on the first day, and for each day that it has waited. A choice of ours, no source. */
const leftOutPoints = { job: { first: 240, perDay: 12 }, callback: { first: 500, perDay: 60 } }
/** What leaving out costs more on the last day that was promised, and after it. A choice of ours, no source. */
const duePoints = 300
/** What was booked keeps its day: more than any way around could cost. */
const bookedPoints = 20_000
/** One whose people are away: before everything that waits, and never instead of one that has its people. */
const awayPoints = 3_000
/** A callback’s promise weighs as three. */
const callbackWeight = 3
/** Where no promise was made. */
const anyTime = 12 * 3600

export interface DayQuestion {
  file: DayFile
  crews: BoardCrew[]
  /** What each visit of the problem is: booked, or waiting. */
  what: ({ booked: DayFileVisit; open: null } | { booked: null; open: DayFileOpen })[]
  problem: DayProblem
  /** The same as it stands: what is booked while somebody is away, or late into it, is done. */
  asIs: DayProblem
  /** Crews by visit as they are booked, in the order of the day. */
  booked: number[][]
  /** Seconds since 1970 at which the problem’s times begin. */
  begin: number
  /** Homes that are on no road: nobody knows how far they are. */
  lost: string[]
  spread: (visit: number) => number
}

const second = (iso: string) => Date.parse(iso) / 1000

/** Places of a day on its roads, and the travel between them; the store first. Without a store: the first home. */
export function travelOf(
  file: DayFile,
  roads: Roads,
  table: Timetable,
): { matrix: TravelMatrix; bySite: Map<string, number>; lost: string[] } {
  const places: Place[] = []
  const bySite = new Map<string, number>()
  const lost: string[] = []
  const add = (position: DayFile['store']) => {
    const place = position && placeAt(roads, position)
    return place ? places.push(place) - 1 : null
  }
  const homes = file.homes.map(({ siteId, position }) => ({ siteId, place: position && placeAt(roads, position) }))
  if (add(file.store) === null) places.push(homes.find(({ place }) => place)?.place ?? { stretch: 0, along: 0.5, metres: 0, at: [0, 0] })
  for (const { siteId, place } of homes)
    if (place) bySite.set(siteId, places.push(place) - 1)
    else {
      lost.push(siteId)
      // As if it were at the store: its way is not known, and that is said.
      bySite.set(siteId, 0)
    }
  const { from, to } = hoursOf(file)
  return { matrix: travelMatrix(table, places, from, to), bySite, lost }
}

/** Whoever is booked before the shift leaves an hour before that. */
const leavesBefore = 3600
/** From when to when anybody may be on the road that day, in whole hours: the shift, and what is booked beside it. Seconds since 1970. */
export function hoursOf({ shift, visits }: Pick<DayFile, 'shift' | 'visits'>): { from: number; to: number } {
  const from = Math.min(second(shift.from), ...visits.map(({ startsAt }) => second(startsAt) - leavesBefore))
  const to = Math.max(second(shift.latest), ...visits.map(({ endsAt }) => second(endsAt) + leavesBefore))
  return { from: Math.floor(from / 3600) * 3600, to: Math.ceil(to / 3600) * 3600 }
}

/**
 * The day as a problem to be solved.
 * @param options.asBooked Nobody comes before the time that is booked: for showing the day as it is, and for ways that keep to it.
 * @param options.now Seconds since 1970, on the day itself: what was done stands, and crews go on from where they are.
 * @param options.placing What waits is placed, too, if its parts are here.
 */
export function questionOf(
  file: DayFile,
  { matrix, bySite, lost }: ReturnType<typeof travelOf>,
  {
    asBooked = false,
    placing = true,
    now = 0,
    weights = usualWeights,
  }: { asBooked?: boolean; placing?: boolean; now?: number; weights?: DayWeights } = {},
): DayQuestion {
  const begin = matrix.from
  const at = (iso: string) => second(iso) - begin
  const there = new Map(file.visits.map((visit) => [visit.id, comersOf(file, visit)]))
  const shift = { from: second(file.shift.from), to: second(file.shift.to) }
  const crews = crewsOf({
    people: file.people.filter(({ id }) => workedParts(file.away, id, shift).length > 0),
    visits: file.visits.map((visit) => ({ ...visit, personIds: there.get(visit.id)! })),
  })
  /** Whose visit it is; several, where people of several crews come together. */
  const crewsAt = ({ id: visitId }: DayFileVisit) => {
    const personIds = there.get(visitId)!
    const leads = crews.flatMap(({ id }, index) => (personIds.includes(id) ? [index] : []))
    return leads.length ? leads : crews.flatMap((crew, index) => (crew.personIds.some((id) => personIds.includes(id)) ? [index] : []))
  }
  const [shiftFrom, shiftTo, latest] = [at(file.shift.from), at(file.shift.to), at(file.shift.latest)]
  const passed = Math.max(0, now - begin)
  const rest = file.rest && { seconds: file.rest.minutes * 60, from: at(file.rest.from), to: at(file.rest.to) }
  const dayCrews = crews.map((crew, index): DayCrew => {
    const own = file.visits.filter((visit) => crewsAt(visit).includes(index))
    const running = own.filter(({ status }) => status === 'onSite')
    const last = [...running, ...own.filter(({ status }) => status === 'done')].sort((a, b) =>
      (a.finishedAt ?? a.endsAt).localeCompare(b.finishedAt ?? b.endsAt),
    )
    const here = running[0] ?? last.at(-1) ?? null
    const begins = Math.min(shiftFrom, ...own.flatMap(({ startsAt }) => (at(startsAt) < shiftFrom ? [at(startsAt) - leavesBefore] : [])))
    const free = Math.max(
      begins,
      passed,
      ...running.map(({ arrivedAt, startsAt, minutes }) =>
        leavesAt({ now: passed, work: { since: at(arrivedAt ?? startsAt), seconds: minutes * 60, spread: 0 } }),
      ),
    )
    const parts = partsOf(file, crew, shift).map(({ from, to }) => ({ from: from - begin, to: to - begin }))
    // Between being away and what is theirs until others have it, nothing may be left.
    const nothing = { from: shiftTo, to: shiftTo }
    const [first, lastPart] = [parts[0] ?? nothing, parts.at(-1) ?? nothing]
    const beginsWork = first.from > shiftFrom ? first.from : 0
    const endsWork = lastPart.to < shiftTo ? lastPart.to : null
    const away = parts.slice(1).map(({ from }, gap) => ({ from: parts[gap]!.to, to: from }))
    return {
      id: crew.id,
      personIds: crew.personIds,
      people: crew.people,
      licensed: crew.licensed,
      skills: crew.skills,
      start: here ? bySite.get(here.siteId)! : 0,
      end: file.store ? 0 : null,
      from: Math.max(free, beginsWork),
      to: Math.max(endsWork ?? shiftTo, free + 1),
      latest: Math.max(endsWork ?? latest, ...own.map(({ endsAt }) => at(endsAt)), free + 1),
      // Half of the day is over: whoever could rest has rested.
      rest: rest && free < rest.to ? { ...rest, from: Math.max(rest.from, free) } : null,
      away,
      pace: 1,
    }
  })
  /** Crews that have its parts in their van. */
  const onBoard = (partsIn: readonly string[] | null) =>
    partsIn && crews.flatMap(({ vanId }, index) => (vanId && partsIn.includes(vanId) ? [index] : []))
  const mostInCrew = Math.max(1, ...crews.map(({ people }) => people))
  const planned = file.visits.filter(({ status, personIds }) => status === 'planned' && personIds.length)
  const bookedVisit = (visit: DayFileVisit): DayVisit => {
    const theirs = crewsAt(visit)
    const together = theirs.length > 1
    const from = asBooked ? at(visit.startsAt) : at(visit.windowFrom)
    const own = theirs.map((crew) => crews[crew]!)
    const come = own.reduce((sum, crew) => sum + crew.people, 0)
    // As it is booked it can be: what its people lack is said on the board, and others are not asked for more.
    const skills = visit.needs.skills.filter((skill) => !own.length || own.some((crew) => crew.skills.includes(skill)))
    return {
      id: visit.id,
      place: bySite.get(visit.siteId) ?? 0,
      seconds: visit.minutes * 60,
      from,
      to: Math.max(from, at(visit.windowTo)),
      hard: false,
      weight: visit.kind === 'callback' ? callbackWeight : 1,
      people: together ? Math.max(2, come) : Math.min(visit.needs.people, own.length ? Math.max(1, come) : mostInCrew),
      licence: visit.kind !== 'survey',
      skills,
      partsWith: onBoard(visit.partsIn),
      leftOut: theirs.length ? bookedPoints : awayPoints,
      pinned:
        // Its people are away: anybody may go.
        !theirs.length || (!together && visit.tied === null && !visit.setOffAt && (visit.kind === 'survey' || crews[theirs[0]!]!.licensed))
          ? null
          : theirs,
      promised: theirs.length ? { crews: theirs, start: at(visit.startsAt) } : null,
    }
  }
  const openVisit = (open: DayFileOpen): DayVisit => {
    const callback = open.callbackId !== null
    const { first, perDay } = leftOutPoints[callback ? 'callback' : 'job']
    const days = Math.max(0, (begin - second(open.since)) / 86_400)
    return {
      id: open.id,
      place: bySite.get(open.siteId) ?? 0,
      seconds: open.minutes * 60,
      from: passed,
      to: passed + anyTime,
      hard: false,
      weight: callback ? callbackWeight : 1,
      people: open.needs.people,
      licence: open.kind !== 'survey',
      skills: open.needs.skills,
      partsWith: onBoard(open.partsIn),
      leftOut: first + perDay * Math.min(days, 30) + (open.by !== null && open.by <= file.date ? duePoints : 0),
      pinned: null,
      promised: null,
    }
  }
  // Nobody is sent without the parts.
  const waiting = placing ? file.open.filter(({ lacks }) => lacks === null) : []
  // Who works without a licence as it is booked goes on doing so; the board says it.
  const unlicensed = ({ pinned }: DayVisit) => pinned !== null && !pinned.some((crew) => crews[crew]!.licensed)
  const visits = [
    ...planned.map(bookedVisit).map((visit) => (unlicensed(visit) ? { ...visit, licence: false } : visit)),
    ...waiting.map(openVisit),
  ]
  const booked: number[][] = crews.map(() => [])
  planned
    .map((visit, index) => ({ visit, index }))
    .sort((a, b) => a.visit.startsAt.localeCompare(b.visit.startsAt))
    .forEach(({ visit, index }) => crewsAt(visit).forEach((crew) => booked[crew]!.push(index)))
  const problem: DayProblem = {
    crews: dayCrews,
    visits,
    store: file.store ? 0 : null,
    weights,
    // Without a store crews begin at home: nobody knows how far that is.
    arrive: (from, to, leave) => (!file.store && (from === 0 || to === 0) ? leave : arrivalIn(matrix, from, to, leave)),
  }
  // A day that runs past every limit as it is booked is still the day there is.
  const played = (team: DayCrew[]) => {
    const homes = timePlan({ ...problem, crews: team }, booked, true)?.crews ?? []
    const latest = (crew: DayCrew, index: number) => Math.max(crew.latest, homes[index]?.home ?? 0)
    return { homes, problem: { ...problem, crews: team.map((crew, index) => ({ ...crew, latest: latest(crew, index) })) } }
  }
  const { homes: always, problem: asIs } = played(dayCrews.map((crew) => ({ ...crew, away: [] })))
  const stopsOf = (crew: number) => always[crew]?.stops ?? []
  const turns = vanTurns(
    crews.map(({ drives }) => drives),
    crews.flatMap((_, crew) => [
      // It stands where they work now.
      ...file.visits
        .filter((visit) => visit.status === 'onSite' && crewsAt(visit).includes(crew))
        .map(() => ({ crew, from: 0, to: dayCrews[crew]!.from })),
      ...file.visits
        .filter(({ id, status, personIds }) => status === 'planned' && !there.get(id)!.length && personIds[0] === crews[crew]!.id)
        .map(({ startsAt, endsAt }) => ({ crew, from: at(startsAt), to: at(endsAt) })),
      ...stopsOf(crew).map(({ visit, end }) => {
        const from = at(planned[visit]!.startsAt)
        return { crew, from, to: Math.max(end, from + visits[visit]!.seconds) }
      }),
    ]),
    hoursOf(file).to - begin,
  )
  const team = dayCrews.map((crew, index) => ({
    ...crew,
    away: [...crew.away, ...turns[index]!].sort((a, b) => a.from - b.from),
  }))
  // Mostly nobody is away in between, and each has a van: then there is nothing to play anew.
  const toPlan = team.some(({ away }) => away.length) ? played(team).problem : asIs
  return {
    file,
    crews,
    what: [...planned.map((visit) => ({ booked: visit, open: null })), ...waiting.map((one) => ({ booked: null, open: one }))],
    // Two crews who would wait for each other until one of them is away come together all the same.
    problem: toPlan !== asIs && timePlan(toPlan, booked) ? toPlan : asIs,
    asIs,
    booked,
    begin,
    lost,
    spread: (visit) => (planned[visit] ?? waiting[visit - planned.length])?.spread ?? 0.3,
  }
}
