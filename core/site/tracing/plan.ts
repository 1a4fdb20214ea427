import { beliefOf, predicted, type Belief, type Hypothesis, type TracedBox } from './belief'
import type { TracingRound } from './round'

export interface TracingProblem {
  /** Breakers that may be opened, with what opening each one costs: steps, loads that drop. */
  breakers: { id: string; cost: number }[]
  loads: TracedBox[]
  rounds: TracingRound[]
}
export interface Proposal {
  /** Breakers to have open in this round; all others that may be moved are closed. */
  open: string[]
  /** find: tell feeds apart · check: make sure of what was found · repeat: what was seen fits nothing. */
  purpose: 'find' | 'check' | 'repeat'
  /** Expected rounds still needed after this one to know every feed, if all is seen right. */
  roundsAfter: number
}

/** How much the mean over all boxes counts beside the slowest. */
const othersShare = 1e-3
/** What the rounds so far say about each box. */
export const beliefsOf = ({ loads, rounds }: TracingProblem): Belief[] => loads.map((load) => beliefOf(load, rounds))

/** Above this many breakers not every set can be tried; a search from good starts looks at some. */
const allSetsUpTo = 10

/** Depths of the best code for these weights: how many yes-or-no rounds find each (Huffman 1952). */
export function codeDepths(weights: number[]): number[] {
  let nodes = weights.map((weight, index) => ({ weight, leaves: [index] }))
  const depths = weights.map(() => 0)
  while (nodes.length > 1) {
    nodes = nodes.sort((a, b) => b.weight - a.weight)
    const [least, next] = [nodes.pop()!, nodes.pop()!]
    for (const leaf of [...least.leaves, ...next.leaves]) depths[leaf]!++
    nodes.push({ weight: least.weight + next.weight, leaves: [...least.leaves, ...next.leaves] })
  }
  return depths
}

/** P(rounds ≤ d) for d = 0 … from depths and weights that sum to `total`. */
function distribution(groups: Hypothesis[][], total: number, balanced: boolean): number[] {
  const at: number[] = []
  for (const group of groups) {
    const depths = balanced
      ? group.map(() => Math.ceil(Math.log2(Math.max(1, group.length))))
      : codeDepths(group.map((hypothesis) => hypothesis.weight))
    for (const [index, hypothesis] of group.entries()) at[depths[index]!] = (at[depths[index]!] ?? 0) + hypothesis.weight / total
  }
  let sum = 0
  return Array.from({ length: at.length }, (_, depth) => (sum += at[depth] ?? 0))
}
/** Mean of the greatest of several independent numbers. */
function meanOfGreatest(distributions: number[][]): number {
  const longest = Math.max(...distributions.map((one) => one.length))
  let mean = 0
  for (let depth = 0; depth < longest - 1; depth++)
    mean += 1 - distributions.reduce((product, one) => product * (one[Math.min(depth, one.length - 1)] ?? 1), 1)
  return mean
}

/** Expected rounds after this one, for all boxes together: the slowest decides. */
function roundsAfter(beliefs: Belief[], open: ReadonlySet<string>): number {
  const split = beliefs.map((belief) => {
    const off = belief.candidates.filter((hypothesis) => predicted(hypothesis, open) === 'off')
    const on = belief.candidates.filter((hypothesis) => predicted(hypothesis, open) === 'on')
    return { groups: [off, on].filter((group) => group.length), total: belief.candidates.reduce((sum, one) => sum + one.weight, 0) }
  })
  const rounds = [false, true].map((balanced) => split.map(({ groups, total }) => distribution(groups, total, balanced)))
  // The slowest box decides; between sets that are equal for it, the one that helps the others more.
  return (
    Math.min(...rounds.map(meanOfGreatest)) +
    (othersShare * rounds[0]!.reduce((sum, one) => sum + meanOfGreatest([one]), 0)) / Math.max(1, beliefs.length)
  )
}
/** Weight of rivals that would still be there after this round, if it is seen as expected. */
function rivalsLeft(beliefs: Belief[], open: ReadonlySet<string>): number {
  return beliefs.reduce((sum, belief) => {
    const expected = predicted(belief, open)
    return sum + belief.rivals.reduce((rest, rival) => rest + (predicted(rival, open) === expected ? 1 + rival.weight : 0), 0)
  }, 0)
}

function* subsets(ids: string[]): Generator<string[]> {
  for (let bits = 1; bits < 2 ** ids.length; bits++) yield ids.filter((_, index) => bits & (1 << index))
}
/** Starts for large panels: halves by weight, by each box's own code, and by position in binary. */
function starts(ids: string[], beliefs: Belief[]): string[][] {
  const found: string[][] = []
  for (let bit = 0; 2 ** bit < ids.length; bit++) found.push(ids.filter((_, index) => index & (1 << bit)))
  for (const belief of beliefs.slice(0, 12)) {
    let sum = 0
    const total = belief.candidates.reduce((all, one) => all + one.weight, 0)
    const half: string[] = []
    for (const { breakerIds, weight } of belief.candidates)
      if (breakerIds.length === 1 && sum + weight <= total / 2 + 1e-12) {
        half.push(breakerIds[0]!)
        sum += weight
      }
    if (half.length) found.push(half)
    // Opened alone: the sure way to see one feed by itself.
    if (belief.breakerIds.length === 1) found.push(belief.breakerIds)
  }
  return found
}

/** The set with the lowest score; among equals the cheapest to open. */
function bestSet(
  problem: TracingProblem,
  beliefs: Belief[],
  score: (open: ReadonlySet<string>) => number,
): { open: string[]; score: number } {
  const ids = problem.breakers.map((breaker) => breaker.id)
  const costs = new Map(problem.breakers.map((breaker) => [breaker.id, breaker.cost]))
  const costOf = (open: string[]) => open.reduce((sum, id) => sum + 1 + (costs.get(id) ?? 0), 0)
  interface Choice {
    open: string[]
    score: number
    cost: number
  }
  const choice = (open: string[]): Choice => ({ open, score: score(new Set(open)), cost: costOf(open) })
  const better = (a: Choice, b: Choice | null) => !b || a.score < b.score - 1e-9 || (a.score < b.score + 1e-9 && a.cost < b.cost)
  let best: Choice | null = null
  if (ids.length <= allSetsUpTo)
    for (const open of subsets(ids)) {
      const one = choice(open)
      if (better(one, best)) best = one
    }
  else
    for (const start of starts(ids, beliefs)) {
      let here = choice(start)
      // Move one breaker at a time as long as it helps.
      for (let helped = true; helped;) {
        helped = false
        for (const id of ids) {
          const changed = here.open.includes(id) ? here.open.filter((one) => one !== id) : [...here.open, id]
          if (changed.length === 0) continue
          const one = choice(changed)
          if (better(one, here)) {
            here = one
            helped = true
          }
        }
      }
      if (better(here, best)) best = here
    }
  return best!
}

/**
 * The next round of circuit tracing: which breakers to have open together, so that the expected number of rounds until
 * every box's feed is known is least; then, what to open to make sure. Null when every box is sure.
 */
export function nextRound(problem: TracingProblem, beliefs = beliefsOf(problem)): Proposal | null {
  const odd = beliefs.find((belief) => belief.status === 'odd' && belief.against.length > 0)
  if (odd) {
    // The same set again, for the observation that stands against the best explanation.
    const again = problem.rounds[odd.against.at(-1)!]!.open.filter((id) => problem.breakers.some((breaker) => breaker.id === id))
    if (again.length) return { open: again, purpose: 'repeat', roundsAfter: roundsAfter(beliefs, new Set(again)) }
  }
  if (problem.breakers.length === 0) return null
  const open = beliefs.filter((belief) => belief.status === 'open')
  if (open.length) {
    const best = bestSet(problem, open, (set) => roundsAfter(open, set))
    return { open: best.open, purpose: 'find', roundsAfter: best.score }
  }
  const unsure = beliefs.filter((belief) => belief.status === 'found')
  const rivals = unsure.reduce((sum, belief) => sum + belief.rivals.length, 0)
  if (unsure.length === 0 || rivals === 0) return null
  const best = bestSet(problem, unsure, (set) => rivalsLeft(unsure, set))
  return best.score < rivals ? { open: best.open, purpose: 'check', roundsAfter: 0 } : null
}
