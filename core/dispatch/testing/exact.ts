import type { DayProblem } from '../plan'

/**
 * The cheapest day by trying every one, with times of its own making: slow and plain, for comparison.
 * Visits that two crews do together are tried with each pair of crews.
 * @returns The least cost; exact up to eight visits without pairs, five with.
 */
export function cheapestDay(problem: DayProblem): number {
  const { crews, visits } = problem
  let best = Infinity
  const routes: number[][] = crews.map(() => [])
  const able = (visit: number, who: number[]) => {
    const wanted = visits[visit]!
    const all = who.map((crew) => crews[crew]!)
    return (
      all.reduce((sum, crew) => sum + crew.people, 0) >= wanted.people &&
      (!wanted.licence || all.some((crew) => crew.licensed)) &&
      wanted.skills.every((skill) => all.some((crew) => crew.skills.includes(skill))) &&
      (!wanted.pinned || who.every((crew) => wanted.pinned!.includes(crew)))
    )
  }
  const waysOf = (visit: number): number[][] => {
    const alone = crews.flatMap((_, crew) => (able(visit, [crew]) ? [[crew]] : []))
    if (alone.length || visits[visit]!.people < 2) return alone
    return crews.flatMap((_, a) => crews.flatMap((__, b) => (a < b && able(visit, [a, b]) ? [[a, b]] : [])))
  }
  const together = visits.some((visit, index) => visit.people > 1 && waysOf(index).some((way) => way.length > 1))
  if (!together) return cheapestApart(problem, waysOf)
  const place = (visit: number): void => {
    if (visit === visits.length) {
      const cost = costOf(problem, routes)
      if (cost < best) best = cost
      return
    }
    place(visit + 1)
    const inserted = (crew: number, then: () => void) => {
      for (let at = 0; at <= routes[crew]!.length; at++) {
        routes[crew]!.splice(at, 0, visit)
        then()
        routes[crew]!.splice(at, 1)
      }
    }
    for (const [first, second] of waysOf(visit))
      inserted(first!, () => (second === undefined ? place(visit + 1) : inserted(second, () => place(visit + 1))))
  }
  place(0)
  return best
}

/** Without pairs each crew’s day stands alone: the best order of every set, then the best sharing out. */
function cheapestApart(problem: DayProblem, waysOf: (visit: number) => number[][]): number {
  const { crews, visits } = problem
  const ways = visits.map((_, visit) => waysOf(visit))
  const sets = 1 << visits.length
  const empty: number[][] = crews.map(() => [])
  const out = (set: number) => visits.reduce((sum, visit, index) => sum + (set & (1 << index) ? visit.leftOut : 0), 0)
  let shared = Array.from({ length: sets }, (_, set) => (set === 0 ? 0 : Infinity))
  crews.forEach((_, crew) => {
    const bySet = new Float64Array(sets).fill(Infinity)
    const walk = (route: number[], set: number) => {
      const day = empty.map((route_, index) => (index === crew ? route : route_))
      const cost = costOf({ ...problem, visits: visits.map((visit) => ({ ...visit, leftOut: 0 })) }, day)
      if (cost < bySet[set]!) bySet[set] = cost
      for (let visit = 0; visit < visits.length; visit++)
        if (!(set & (1 << visit)) && ways[visit]!.some(([only]) => only === crew)) walk([...route, visit], set | (1 << visit))
    }
    walk([], 0)
    const next = Array.from({ length: sets }, () => Infinity)
    for (let set = 0; set < sets; set++)
      for (let part = set; ; part = (part - 1) & set) {
        const cost = shared[set ^ part]! + bySet[part]!
        if (cost < next[set]!) next[set] = cost
        if (part === 0) break
      }
    shared = next
  })
  return shared.reduce((least, cost, set) => Math.min(least, cost + out(sets - 1 - set)), Infinity)
}

/** Plays all days again and again until nothing moves: visits that are shared begin when the last one comes. */
function costOf(problem: DayProblem, routes: number[][]): number {
  const { crews, visits, weights, store } = problem
  const starts = visits.map(() => 0)
  const shared = (visit: number) => routes.filter((route) => route.includes(visit)).length > 1
  for (let pass = 0; ; pass++) {
    if (pass > visits.length + 1) return Infinity
    const asked = visits.map(() => 0)
    let cost = 0
    let possible = true
    let moved = false
    routes.forEach((route, number) => {
      const crew = crews[number]!
      if (!route.length) return
      let { from: now, start: here } = crew
      let rested = !crew.rest
      let loaded = store === null || here === store
      let road = 0
      let snapshot = { now, here, rested, loaded, road }
      const drive = (to: number) => {
        const there = problem.arrive(here, to, now)
        road += there - now
        now = there
        here = to
      }
      /** @returns When its work begins and ends */
      const visitNext = (index: number, others: number) => {
        const visit = visits[index]!
        if (!loaded && visit.partsWith && !visit.partsWith.includes(number)) {
          drive(store!)
          now += 600
          loaded = true
        }
        const before = { now, here, road }
        drive(visit.place)
        let start = Math.max(now, visit.from)
        if (!rested && start >= crew.rest!.from) {
          const { rest } = crew
          let after: number
          let late = false
          if (now <= rest!.to) after = Math.max(Math.max(now, rest!.from) + rest!.seconds, visit.from)
          else {
            late = true
            Object.assign(before, { now: Math.max(before.now, rest!.from) + rest!.seconds })
            after = Math.max(visit.from, problem.arrive(before.here, visit.place, before.now))
          }
          const worse = after > visit.to && start <= visit.to && start + visit.seconds * crew.pace <= rest!.to
          if (!worse) {
            if (late) road = before.road + problem.arrive(before.here, visit.place, before.now) - before.now
            start = after
            rested = true
          }
        }
        const ready = start
        start = Math.max(start, others)
        now = start + visit.seconds * crew.pace
        if (!rested && now > crew.rest!.to) {
          now += crew.rest!.seconds
          rested = true
        }
        return { ready, start }
      }
      for (const index of route) {
        const visit = visits[index]!
        // Not before it is back, where it would not be done before it is away.
        snapshot = { now, here, rested, loaded, road }
        let leave = now
        const again = () => {
          ;({ here, rested, loaded, road } = snapshot)
          now = leave
        }
        for (const away of crew.away) {
          if (leave >= away.to) continue
          again()
          visitNext(index, 0)
          if (now <= away.from) break
          leave = away.to
        }
        again()
        const { ready, start } = visitNext(index, shared(index) ? starts[index]! : 0)
        asked[index] = Math.max(asked[index]!, ready)
        if (start > visit.to && visit.hard) possible = false
        if (crew.away.some(({ from, to }) => start < to && now > from)) possible = false
        if (visit.promised && !visit.promised.crews.includes(number)) cost += weights.otherCrew
        if (now > crew.latest) possible = false
      }
      if (!rested && now > crew.rest!.from) now += crew.rest!.seconds
      if (crew.end !== null) drive(crew.end)
      if (now > crew.latest) possible = false
      cost += (road / 60) * weights.travel + ((now - crew.from) / (crew.to - crew.from)) ** 2 * weights.uneven
      cost += (Math.max(0, now - crew.to) / 60) * weights.overtime
    })
    asked.forEach((start, index) => {
      if (routes.some((route) => route.includes(index)) && Math.abs(start - starts[index]!) > 1e-6) moved = true
      starts[index] = start
    })
    if (moved) continue
    if (!possible) return Infinity
    const placed = new Set(routes.flat())
    visits.forEach((visit, index) => {
      if (!placed.has(index)) return void (cost += visit.leftOut)
      cost += (Math.max(0, starts[index]! - visit.to) / 60) * weights.late * visit.weight
      if (visit.promised) cost += (Math.max(0, Math.abs(starts[index]! - visit.promised.start) - 900) / 60) * weights.moved
    })
    return cost
  }
}
