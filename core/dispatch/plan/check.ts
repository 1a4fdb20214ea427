import { asSaidSeconds, storeSeconds, type DayProblem } from './day'
import type { CrewTimes } from './timing'

export type Rule =
  | 'twice'
  | 'missing'
  | 'licence'
  | 'skills'
  | 'people'
  | 'pinned'
  | 'tooSoon'
  | 'tooFast'
  | 'early'
  | 'late'
  | 'apart'
  | 'overtime'
  | 'pastLatest'
  | 'rest'
  | 'parts'
  | 'away'
export interface Breach {
  rule: Rule
  visit: number | null
  crew: number | null
  /** By how much, where time is what is broken. */
  seconds: number
  /** May not be, against what only costs something. */
  forbidden: boolean
}

/** Half a second: times were rounded on the way. */
const slack = 0.5

/**
 * Reads a plan’s times and says each rule that they break, without playing the day: what the planner believes is not asked.
 * @param plan What each crew does when, and what is left out.
 */
export function breachesOf(
  problem: DayProblem,
  plan: { crews: readonly Pick<CrewTimes, 'stops' | 'home' | 'restFrom'>[]; leftOut: readonly number[] },
): Breach[] {
  const { crews, visits, store } = problem
  const found: Breach[] = []
  const say = (rule: Rule, visit: number | null, crew: number | null, forbidden: boolean, seconds = 0) =>
    found.push({ rule, visit, crew, seconds, forbidden })
  const comers = visits.map((): { crew: number; start: number; end: number }[] => [])
  plan.crews.forEach(({ stops, home, restFrom }, crew) => {
    const { from, to, latest, rest, end, start: begin, away } = crews[crew]!
    let [time, place] = [from, begin]
    let parts = store === null || begin === store
    const rests: { from: number; within: boolean }[] = []
    for (const stop of stops) {
      const visit = visits[stop.visit]!
      comers[stop.visit]!.push({ crew, start: stop.start, end: stop.end })
      if (stop.leave < time - slack) say('tooSoon', stop.visit, crew, true, time - stop.leave)
      const resting = stop.restFrom !== null && rest ? rest.seconds : 0
      const beforeLeaving = stop.restFrom !== null && stop.restFrom < stop.arrive - slack
      const within = stop.restFrom !== null && stop.restFrom >= stop.start - slack
      if (stop.restFrom !== null) rests.push({ from: stop.restFrom, within })
      let earliest = stop.leave
      if (stop.storeAt !== null) {
        if (store === null || stop.storeAt < problem.arrive(place, store, stop.leave) - slack) say('tooFast', stop.visit, crew, true)
        earliest = stop.storeAt + storeSeconds
        parts = true
        place = store ?? place
      }
      if (beforeLeaving) {
        if (stop.restFrom! < earliest - slack) say('tooSoon', stop.visit, crew, true)
        earliest = stop.restFrom! + resting
      }
      const reached = problem.arrive(place, visit.place, earliest)
      if (stop.arrive < reached - slack) say('tooFast', stop.visit, crew, true, reached - stop.arrive)
      const ready = stop.restFrom !== null && !beforeLeaving && !within ? Math.max(stop.arrive, stop.restFrom) + resting : stop.arrive
      if (stop.start < ready - slack) say('tooSoon', stop.visit, crew, true, ready - stop.start)
      if (stop.end < stop.start + visit.seconds * crews[crew]!.pace + (within ? resting : 0) - slack)
        say('tooSoon', stop.visit, crew, true, stop.start + visit.seconds - stop.end)
      if (away.some((gap) => stop.start < gap.to - slack && stop.end > gap.from + slack)) say('away', stop.visit, crew, true)
      if (!parts && visit.partsWith && !visit.partsWith.includes(crew)) say('parts', stop.visit, crew, true)
      ;[time, place] = [stop.end, visit.place]
    }
    if (!stops.length) return
    if (restFrom !== null && rest) {
      if (restFrom < time - slack) say('tooSoon', null, crew, true)
      rests.push({ from: restFrom, within: false })
      time = restFrom + rest.seconds
    }
    const back = end === null ? time : problem.arrive(place, end, time)
    if (home < back - slack) say('tooFast', null, crew, true, back - home)
    if (home > latest + slack) say('pastLatest', null, crew, true, home - latest)
    else if (home > to + slack) say('overtime', null, crew, false, home - to)
    if (!rest) return
    const needed = stops.at(-1)!.end > rest.from + slack
    if (rests.length > 1 || (needed && !rests.length) || rests.some((one) => one.from < rest.from - slack)) say('rest', null, crew, true)
    else if (rests.some((one) => one.from > rest.to + slack)) say('rest', null, crew, false, rests[0]!.from - rest.to)
  })
  visits.forEach((visit, number) => {
    const come = comers[number]!
    if (plan.leftOut.includes(number)) {
      if (come.length) say('twice', number, null, true)
      return
    }
    if (!come.length) return say('missing', number, null, true)
    if (new Set(come.map(({ crew }) => crew)).size < come.length) say('twice', number, null, true)
    const there = come.map(({ crew }) => crews[crew]!)
    if (visit.licence && !there.some(({ licensed }) => licensed)) say('licence', number, come[0]!.crew, true)
    if (visit.skills.some((skill) => !there.some(({ skills }) => skills.includes(skill)))) say('skills', number, come[0]!.crew, true)
    if (there.reduce((sum, { people }) => sum + people, 0) < visit.people) say('people', number, come[0]!.crew, true)
    if (visit.pinned && come.some(({ crew }) => !visit.pinned!.includes(crew))) say('pinned', number, come[0]!.crew, true)
    const starts = come.map(({ start }) => start)
    if (Math.max(...starts) - Math.min(...starts) > slack) say('apart', number, null, true, Math.max(...starts) - Math.min(...starts))
    if (Math.min(...starts) < visit.from - slack) say('early', number, come[0]!.crew, true, visit.from - Math.min(...starts))
    if (Math.max(...starts) > visit.to + slack) say('late', number, come[0]!.crew, visit.hard, Math.max(...starts) - visit.to)
  })
  return found
}

/** What a plan costs, added up from its times alone. */
export function costFromTimes(problem: DayProblem, plan: { crews: readonly CrewTimes[]; leftOut: readonly number[] }): number {
  const { weights } = problem
  const perMinute = (seconds: number, points: number) => (Math.max(0, seconds) / 60) * points
  let cost = plan.leftOut.reduce((sum, visit) => sum + problem.visits[visit]!.leftOut, 0)
  const said = new Set<number>()
  plan.crews.forEach(({ stops, travel, home }, number) => {
    const crew = problem.crews[number]!
    if (!stops.length) return
    cost += perMinute(travel, weights.travel) + perMinute(home - crew.to, weights.overtime)
    cost += ((home - crew.from) / (crew.to - crew.from)) ** 2 * weights.uneven
    for (const { visit: index, start } of stops) {
      const visit = problem.visits[index]!
      if (visit.promised && !visit.promised.crews.includes(number)) cost += weights.otherCrew
      if (said.has(index)) continue
      said.add(index)
      cost += perMinute(start - visit.to, weights.late * visit.weight)
      if (visit.promised) cost += perMinute(Math.abs(start - visit.promised.start) - asSaidSeconds, weights.moved)
    }
  })
  return cost
}
