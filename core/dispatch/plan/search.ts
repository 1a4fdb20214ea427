import { Chance } from '../../chance'
import type { DayProblem, Routes } from './day'
import {
  bestFor,
  bestTogether,
  copyOf,
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

/** The placings of one visit by crew; only those whose crew changed are looked at again. */
class Offers {
  private readonly byVisit = new Map<number, (Placing | null)[]>()
  private readonly together = new Map<number, Placing | null>()
  constructor(
    private readonly problem: DayProblem,
    private readonly draft: Draft,
  ) {}
  add(visit: number): void {
    this.byVisit.set(
      visit,
      this.problem.crews.map((_, crew) => bestFor(this.problem, this.draft, visit, crew)),
    )
    this.together.set(visit, bestTogether(this.problem, this.draft, visit))
  }
  drop(visit: number): void {
    this.byVisit.delete(visit)
    this.together.delete(visit)
  }
  changed(crews: readonly number[]): void {
    for (const [visit, offers] of this.byVisit) {
      for (const crew of crews) offers[crew] = bestFor(this.problem, this.draft, visit, crew)
      if (this.problem.visits[visit]!.people > 1) this.together.set(visit, bestTogether(this.problem, this.draft, visit))
    }
  }
  /** Cheapest first, at most so many. */
  of(visit: number, count: number): Placing[] {
    const offers = this.byVisit.get(visit)!.filter((one) => one !== null)
    const together = this.together.get(visit)
    if (together) offers.push(together)
    return offers.sort((a, b) => a.delta - b.delta).slice(0, count)
  }
}

/**
 * Puts visits in, the one first that loses most by waiting (regret of Potvin and Rousseau, European Journal of Operational
 * Research 66, 1993); what costs more than leaving it out stays out.
 * @param depth How many places are compared: 1 puts the cheapest first, 0 takes them as they come, and not always their best place.
 * @param noise About 1: what each score is taken times.
 */
export function fillIn(problem: DayProblem, draft: Draft, visits: Iterable<number>, depth: number, noise: () => number): void {
  const left = new Set(visits)
  const offers = new Offers(problem, draft)
  for (const visit of left) offers.add(visit)
  while (left.size) {
    let chosen: { visit: number; placing: Placing; score: number } | null = null
    for (const visit of left) {
      const out = problem.visits[visit]!.leftOut
      const [first, ...others] = offers.of(visit, Math.max(2, depth))
      if (!first || first.delta >= out) continue
      const against = (placing: Placing | undefined) => Math.min(placing?.delta ?? Infinity, out)
      let score = -first.delta
      if (depth === 0) {
        const second = others[0] && others[0].delta < out && noise() > 1.1 ? others[0] : first
        score = noise()
        if (!chosen || score > chosen.score) chosen = { visit, placing: second, score }
        continue
      }
      if (depth > 1) {
        score = 0
        for (let rank = 0; rank < depth - 1; rank++) score += against(others[rank]) - first.delta
      }
      score *= noise()
      if (!chosen || score > chosen.score) chosen = { visit, placing: first, score }
    }
    if (!chosen) return
    put(problem, draft, chosen.visit, chosen.placing)
    left.delete(chosen.visit)
    offers.drop(chosen.visit)
    // Whoever shares a visit with them has another day now, too.
    offers.changed(
      linkedCrews(
        problem,
        draft.routes,
        chosen.placing.at.map(({ crew }) => crew),
      ),
    )
  }
}

type Removal = (problem: DayProblem, draft: Draft, count: number, chance: Chance) => number[]
const placedIn = (draft: Draft) => [...new Set(draft.routes.flat())]
const crewOf = (draft: Draft, visit: number) => draft.routes.findIndex((route) => route.includes(visit))
function some<T>(list: T[], count: number, chance: Chance): T[] {
  const left = [...list]
  return Array.from({ length: Math.min(count, left.length) }, () => left.splice(chance.int(left.length), 1)[0]!)
}
/** Towards the front of a sorted list, but not always its first. */
function skewed<T>(sorted: T[], count: number, chance: Chance, power: number): T[] {
  const left = [...sorted]
  return Array.from({ length: Math.min(count, left.length) }, () => left.splice(Math.floor(chance.next() ** power * left.length), 1)[0]!)
}
/** Seconds on the road from one to the other, in the morning. */
const between = ({ visits, crews, arrive }: DayProblem, from: number, to: number) =>
  arrive(visits[from]!.place, visits[to]!.place, crews[0]!.from) - crews[0]!.from
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
const removals: Removal[] = [anyVisits, alike, strings, strings, dearest, wholeDays, tails]
const depths = [0, 1, 2, 3]

/** Share of the first cost by which a plan may be worse and still be gone on with, in the beginning and in the end. */
const [hot, cold] = [0.05, 0.00002]
/** After so many rounds the ways that did well are taken more often. */
const segment = 60

/**
 * Adaptive large-neighbourhood search (Ropke and Pisinger, Transportation Science 40, 2006): takes some visits out, puts
 * them in again in another way, and keeps what is better, or not much worse while the search is young.
 * @returns The best plan found: with rounds the same for the same seed.
 */
export function searchPlan(problem: DayProblem, options: SearchOptions): TimedPlan {
  const { rounds = Infinity, usedUp, cancelled } = options
  const chance = new Chance(options.seed)
  let current = emptyDraft(problem)
  if (options.warm) begin(problem, current, options.warm)
  fillIn(problem, current, [...current.leftOut], 2, () => 1)
  let price = priceOf(problem, current)
  let best = copyOf(current)
  let bestPrice = price
  const told = (draft: Draft, round: number) => options.onBetter?.(timePlan(problem, draft.routes)!, round)
  told(best, 0)
  const scale = Math.max(1, price)
  const ways = removals.flatMap((_, removal) => depths.map((__, depth) => ({ removal, depth, weight: 1, score: 0, used: 0 })))
  for (let round = 1; round <= rounds; round++) {
    const share = usedUp ? usedUp() : round / rounds
    if (share >= 1 && usedUp) break
    if (cancelled?.()) break
    const temperature = scale * hot * (cold / hot) ** share
    const way = ways[Number(chance.weighed(Object.fromEntries(ways.map(({ weight }, index) => [index, weight]))))]!
    const trial = copyOf(current)
    const placed = problem.visits.length - trial.leftOut.size
    const most = Math.min(Math.max(7, Math.round(placed * 0.35)), 28)
    // Few are taken out more often than many.
    const count = 2 + Math.floor(chance.next() ** 2 * Math.max(1, most - 1))
    if (!takeOut(problem, trial, removals[way.removal]!(problem, trial, count, chance))) continue
    const noisy = chance.is(0.5)
    fillIn(problem, trial, [...trial.leftOut], depths[way.depth]!, noisy || !depths[way.depth] ? () => 0.85 + 0.3 * chance.next() : () => 1)
    const after = priceOf(problem, trial)
    way.used++
    if (after < bestPrice - 1e-9) way.score += 20
    else if (after < price - 1e-9) way.score += 8
    if (after < price || chance.is(Math.exp((price - after) / temperature))) {
      if (after > price) way.score += 2
      current = trial
      price = after
      if (after < bestPrice - 1e-9) {
        best = copyOf(trial)
        bestPrice = after
        told(best, round)
      }
    }
    if (round % segment === 0) {
      for (const one of ways) {
        if (one.used) one.weight = Math.max(0.1, 0.8 * one.weight + (0.2 * one.score) / one.used)
        one.score = one.used = 0
      }
      // From time to time back to the best, so that nothing is left unsearched around it.
      if ((round / segment) % 10 === 0) {
        current = copyOf(best)
        price = bestPrice
      }
    }
  }
  return timePlan(problem, best.routes)!
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
