import { Chance } from '../../chance'
import type { DayProblem, Routes } from './day'
import {
  bestFor,
  bestTogether,
  copyOf,
  deltaFor,
  draftOf,
  emptyDraft,
  priceOf,
  put,
  savedBy,
  settle,
  takeOut,
  type Draft,
  type Placing,
} from './placing'
import { linkedCrews, timePlan, type TimedPlan } from './timing'

export interface SearchOptions {
  seed: number
  /** Rounds, for the same plan every time; or a share from 0 to 1 of a budget of time that is used up. */
  rounds?: number
  usedUp?: () => number
  /** A plan to begin with: the one of before, or another’s. */
  warm?: Routes
  onBetter?: (plan: TimedPlan, round: number) => void
  cancelled?: () => boolean
}

/** What one visit costs by crew; only those whose crew changed are looked at again. */
class Offers {
  private readonly byVisit: (number[] | null)[]
  private readonly together: (Placing | null)[]
  /** Of the visit asked about last, cheapest first. */
  private readonly least: number[] = []
  constructor(
    private readonly problem: DayProblem,
    private readonly draft: Draft,
  ) {
    this.byVisit = new Array<null>(problem.visits.length).fill(null)
    this.together = new Array<null>(problem.visits.length).fill(null)
  }
  add(visit: number): void {
    const { problem, draft } = this
    const offers: number[] = []
    for (let crew = 0; crew < problem.crews.length; crew++) offers.push(deltaFor(problem, draft, visit, crew))
    this.byVisit[visit] = offers
    if (problem.visits[visit]!.people > 1) this.together[visit] = bestTogether(problem, draft, visit)
  }
  changed(crews: readonly number[], left: Iterable<number>): void {
    for (const visit of left) {
      const offers = this.byVisit[visit]!
      for (const crew of crews) offers[crew] = deltaFor(this.problem, this.draft, visit, crew)
      if (this.problem.visits[visit]!.people > 1) this.together[visit] = bestTogether(this.problem, this.draft, visit)
    }
  }
  /** Costs of the cheapest, cheapest first, at most so many: read before it is asked again. */
  costs(visit: number, count: number): number[] {
    const { least } = this
    least.length = 0
    const offers = this.byVisit[visit]!
    const together = this.together[visit]
    for (let crew = together ? -1 : 0; crew < offers.length; crew++) {
      const delta = crew < 0 ? together!.delta : offers[crew]!
      if (delta === Infinity) continue
      let at = least.length
      if (at === count) {
        if (delta >= least[at - 1]!) continue
        at--
      }
      for (; at > 0 && least[at - 1]! > delta; at--) least[at] = least[at - 1]!
      least[at] = delta
    }
    return least
  }
  /** The cheapest. */
  placing(visit: number): Placing {
    const offers = this.byVisit[visit]!
    let crew = 0
    for (let next = 1; next < offers.length; next++) if (offers[next]! < offers[crew]!) crew = next
    const together = this.together[visit]
    return together && together.delta <= offers[crew]! ? together : bestFor(this.problem, this.draft, visit, crew)!
  }
}

/**
 * Puts visits in, the one first that loses most by waiting (regret of Potvin and Rousseau, European Journal of Operational
 * Research 66, 1993); what costs more than leaving it out stays out.
 * @param depth How many places are compared: 1 puts the cheapest first.
 * @param noise About 1: what each score is taken times.
 */
export function fillIn(problem: DayProblem, draft: Draft, visits: Iterable<number>, depth: number, noise: () => number): void {
  const left = new Set(visits)
  const offers = new Offers(problem, draft)
  for (const visit of left) offers.add(visit)
  while (left.size) {
    let chosen = -1
    let most = -Infinity
    for (const visit of left) {
      const out = problem.visits[visit]!.leftOut
      const costs = offers.costs(visit, depth)
      if (!costs.length || costs[0]! >= out) continue
      let score = -costs[0]!
      if (depth > 1) {
        score = 0
        for (let rank = 1; rank < depth; rank++) score += Math.min(costs[rank] ?? Infinity, out) - costs[0]!
      }
      score *= noise()
      if (chosen < 0 || score > most) {
        chosen = visit
        most = score
      }
    }
    if (chosen < 0) return
    const placing = offers.placing(chosen)
    put(problem, draft, chosen, placing)
    left.delete(chosen)
    // Whoever shares a visit with them has another day now, too.
    offers.changed(
      linkedCrews(
        problem,
        draft.routes,
        placing.at.map(({ crew }) => crew),
      ),
      left,
    )
  }
}

/**
 * Puts visits in one after the other, each where it costs least; now and then a crew is not looked at (Christiaens and Vanden
 * Berghe, Transportation Science 54, 2020).
 * @param blind Share of crews that are not looked at.
 */
export function fillInOrder(problem: DayProblem, draft: Draft, order: readonly number[], blind: number, chance: Chance): void {
  for (const visit of order) {
    let best = -1
    let least = problem.visits[visit]!.leftOut
    for (let crew = 0; crew < problem.crews.length; crew++) {
      if (chance.is(blind)) continue
      const delta = deltaFor(problem, draft, visit, crew)
      if (delta < least) {
        least = delta
        best = crew
      }
    }
    const together = bestTogether(problem, draft, visit)
    if (together && together.delta < least) put(problem, draft, visit, together)
    else if (best >= 0) put(problem, draft, visit, bestFor(problem, draft, visit, best)!)
  }
}
type Order = (problem: DayProblem, visits: number[], chance: Chance) => number[]
const by =
  (score: (problem: DayProblem, visit: number) => number): Order =>
  (problem, visits) =>
    visits
      .map((visit) => ({ visit, score: score(problem, visit) }))
      .sort((a, b) => a.score - b.score || a.visit - b.visit)
      .map(({ visit }) => visit)
const orders: Order[] = [
  (_, visits) => visits,
  (_, visits, chance) => some(visits, visits.length, chance),
  by(({ visits }, visit) => -visits[visit]!.seconds),
  by(({ visits }, visit) => visits[visit]!.to),
  by(({ visits }, visit) => visits[visit]!.to - visits[visit]!.from),
  by(({ visits, crews, arrive }, visit) => -arrive(crews[0]!.start, visits[visit]!.place, crews[0]!.from)),
]

type Removal = (problem: DayProblem, draft: Draft, count: number, chance: Chance) => number[]
/** Each visit that somebody goes to, once. */
function placedIn(draft: Draft): number[] {
  const placed: number[] = []
  const seen: boolean[] = []
  for (const route of draft.routes)
    for (const visit of route) {
      if (seen[visit]) continue
      seen[visit] = true
      placed.push(visit)
    }
  return placed
}
function crewOf({ routes }: Draft, visit: number): number {
  for (let crew = 0; crew < routes.length; crew++) if (routes[crew]!.includes(visit)) return crew
  return -1
}
function some<T>(list: T[], count: number, chance: Chance): T[] {
  const left = [...list]
  return Array.from({ length: Math.min(count, left.length) }, () => left.splice(chance.int(left.length), 1)[0]!)
}
/** Towards the front of a sorted list, but not always its first. */
function skewed<T>(sorted: T[], count: number, chance: Chance, power: number): T[] {
  const left = [...sorted]
  return Array.from({ length: Math.min(count, left.length) }, () => left.splice(Math.floor(chance.next() ** power * left.length), 1)[0]!)
}
const roads = new WeakMap<DayProblem, Float64Array>()
/** Seconds on the road from one to the other, in the morning. */
function between(problem: DayProblem, from: number, to: number): number {
  const { visits, crews, arrive } = problem
  let road = roads.get(problem)
  if (!road) {
    const leave = crews[0]!.from
    road = Float64Array.from(visits.flatMap(({ place }) => visits.map((other) => arrive(place, other.place, leave) - leave)))
    roads.set(problem, road)
  }
  return road[from * visits.length + to]!
}
const anyVisits: Removal = (_, draft, count, chance) => some(placedIn(draft), count, chance)
/** Near each other on the road and in time (Shaw 1998). */
const alike: Removal = (problem, draft, count, chance) => {
  const placed = placedIn(draft)
  if (!placed.length) return []
  const seed = chance.pick(placed)
  const { visits } = problem
  const far = (visit: number) =>
    between(problem, seed, visit) +
    0.25 * Math.abs(visits[seed]!.from - visits[visit]!.from) +
    (crewOf(draft, seed) === crewOf(draft, visit) ? 0 : 300)
  const sorted = placed.map((visit) => ({ visit, far: visit === seed ? -1 : far(visit) })).sort((a, b) => a.far - b.far)
  return [seed, ...skewed(sorted.slice(1), count - 1, chance, 4).map(({ visit }) => visit)]
}
/** What saves most when it is gone. */
const dearest: Removal = (problem, draft, count, chance) => {
  const saved = placedIn(draft).map((visit) => ({ visit, saves: savedBy(problem, draft, visit) }))
  saved.sort((a, b) => b.saves - a.saves)
  return skewed(saved, count, chance, 3).map(({ visit }) => visit)
}
/** The whole day of one crew or two. */
const wholeDays: Removal = (_, draft, count, chance) => {
  const busy = some(
    draft.routes.flatMap((route, crew) => (route.length ? [crew] : [])),
    2,
    chance,
  )
  const taken = new Set<number>()
  for (const crew of busy) if (taken.size < count) for (const visit of draft.routes[crew]!) taken.add(visit)
  return [...taken]
}
/** The ends of two days, from some hour on. */
const tails: Removal = (_, draft, count, chance) => {
  const taken = new Set<number>()
  for (const route of some(
    draft.routes.filter((one) => one.length),
    3,
    chance,
  ))
    for (const visit of route.slice(chance.int(route.length))) if (taken.size < count) taken.add(visit)
  return [...taken]
}
/** Strings of neighbouring visits from days that pass near each other (Christiaens and Vanden Berghe, Transportation Science 54, 2020). */
const strings: Removal = (problem, draft, count, chance) => {
  const placed = placedIn(draft)
  if (!placed.length) return []
  const seed = chance.pick(placed)
  const near = placed.map((visit) => ({ visit, far: visit === seed ? -1 : between(problem, seed, visit) })).sort((a, b) => a.far - b.far)
  const taken = new Set<number>()
  const ruined = new Set<number>()
  for (const { visit } of near) {
    if (taken.size >= count) break
    const crew = crewOf(draft, visit)
    if (ruined.has(crew)) continue
    ruined.add(crew)
    const route = draft.routes[crew]!
    const length = 1 + chance.int(Math.min(route.length, 4))
    const at = route.indexOf(visit)
    const from = Math.max(0, Math.min(route.length - length, at - chance.int(length)))
    for (const one of route.slice(from, from + length)) taken.add(one)
  }
  return [...taken]
}
/** One that goes to others than was said, and what stands in its way with those. */
const elsewhere: Removal = (problem, draft, count, chance) => {
  const { visits } = problem
  const gone = placedIn(draft).filter((visit) => {
    const said = visits[visit]!.promised
    return said !== null && !draft.routes.some((route, crew) => route.includes(visit) && said.crews.includes(crew))
  })
  if (!gone.length) return []
  const taken: number[] = []
  for (const visit of some(gone, 1 + chance.int(2), chance)) {
    const { crews, start } = visits[visit]!.promised!
    const near = draft.routes[chance.pick(crews)]!.map((one, index) => ({ one, far: Math.abs(visits[one]!.from - start) + index }))
    near.sort((a, b) => a.far - b.far)
    taken.push(visit, ...near.slice(0, 1 + chance.int(Math.max(1, Math.floor(count / 2)))).map(({ one }) => one))
  }
  return [...new Set(taken)]
}
const removals: Removal[] = [elsewhere, elsewhere, elsewhere, anyVisits, alike, strings, strings, dearest, wholeDays, tails]
/** 0 puts them in one after the other. The cheapest first (1) was tried and found wanting. */
const depths = [0, 2, 3, 4]

/** Of the crews, at each visit. */
const blind = 0.03

/** Share of a plan’s cost by which it may be worse and still be gone on with: in the beginning, and in the end. */
const [hot, cold] = [0.012, 0.002]
/** From this share on it goes on from the best that was found, and may be so much worse. Found by trying, on made-up days. */
const lastStretch = { from: 0.65, warmth: 0.0015 }

/**
 * Large-neighbourhood search (Ropke and Pisinger, Transportation Science 40, 2006): takes some visits out, puts them in again in
 * another way, and keeps what is better, or not much worse while the search is young.
 * @returns The best plan found: with rounds the same for the same seed.
 */
export function searchPlan(problem: DayProblem, options: SearchOptions): TimedPlan {
  const { rounds = Infinity, usedUp, cancelled } = options
  const chance = new Chance(options.seed)
  let draft = emptyDraft(problem)
  if (options.warm) begin(problem, draft, options.warm)
  fillIn(problem, draft, [...draft.leftOut], 2, () => 1)
  let price = priceOf(problem, draft)
  let best = copyOf(draft)
  let least = price
  const told = (round: number) => options.onBetter?.(timePlan(problem, best.routes)!, round)
  told(0)
  // Nobody works that day: there is nothing to try.
  if (!problem.crews.length) return timePlan(problem, best.routes)!
  const scale = Math.max(1, price)
  let last = false
  for (let round = 1; round <= rounds; round++) {
    const share = usedUp ? usedUp() : round / rounds
    if ((usedUp && share >= 1) || cancelled?.()) break
    if (!last && share > lastStretch.from) {
      last = true
      draft = copyOf(best)
      price = least
    }
    const temperature = scale * (last ? lastStretch.warmth : hot * (cold / hot) ** share)
    const trial = copyOf(draft)
    if (!renew(problem, trial, chance)) continue
    const after = priceOf(problem, trial)
    if (after >= price && !chance.is(Math.exp((price - after) / temperature))) continue
    draft = trial
    price = after
    if (price >= least - 1e-9) continue
    best = copyOf(draft)
    least = price
    told(round)
  }
  return timePlan(problem, best.routes)!
}

/** Takes some visits out and puts them in again. @returns false where what is left cannot be played */
function renew(problem: DayProblem, draft: Draft, chance: Chance): boolean {
  const placed = problem.visits.length - draft.leftOut.size
  const most = Math.min(Math.max(7, Math.round(placed * 0.25)), 28)
  // Few are taken out more often than many.
  const count = 2 + Math.floor(chance.next() ** 2 * Math.max(1, most - 1))
  if (!takeOut(problem, draft, chance.pick(removals)(problem, draft, count, chance))) return false
  const depth = chance.pick(depths)
  const visits = [...draft.leftOut]
  if (depth === 0) fillInOrder(problem, draft, chance.pick(orders)(problem, visits, chance), blind, chance)
  else fillIn(problem, draft, visits, depth, chance.is(0.5) ? () => 0.85 + 0.3 * chance.next() : () => 1)
  return true
}

/** Begins with another’s plan, as far as it can be played: what cannot is put in anew. */
function begin(problem: DayProblem, draft: Draft, warm: Routes): void {
  const whole = draftOf(problem, warm)
  if (whole) return void Object.assign(draft, whole)
  const order = warm.flatMap((route, crew) => route.map((visit, position) => ({ visit, crew, position })))
  // One after the other at the end of the route it had, while that can be played.
  for (const { visit, crew } of order.sort((a, b) => a.position - b.position)) {
    if (!draft.leftOut.has(visit)) continue
    const trial = copyOf(draft)
    const crews = warm.flatMap((route, index) => (route.includes(visit) ? [index] : []))
    for (const one of crews.length > 1 ? crews : [crew]) trial.routes[one]!.push(visit)
    trial.leftOut.delete(visit)
    if (settle(problem, trial, crews)) Object.assign(draft, trial)
  }
}
