import type { BreakerRecord, BoxState, SiteState } from '../state'
import type { TracingRound, Seen } from './round'

/** What may feed a box: one breaker, two at once, or none of this panel's. */
export interface Hypothesis {
  breakerIds: string[]
  weight: number
}
export interface TracedBox {
  boxId: string
  hypotheses: Hypothesis[]
}

/**
 * Where the tracing stands for one box.
 * open: several feeds fit · found: one fits everything seen · confirmed: still so if any one observation were wrong, or
 * if two breakers fed it together · odd: nothing fits, something has to be seen again.
 */
export interface Belief {
  boxId: string
  status: 'open' | 'found' | 'confirmed' | 'odd'
  /** The best hypothesis: breakers, or none of this panel's. */
  breakerIds: string[]
  /** Share of the weight among what still fits, 0 to 1. */
  share: number
  /** Feeds that still fit, best first. */
  candidates: Hypothesis[]
  /** Feeds that would fit if one observation were wrong, or together with another breaker. */
  rivals: Hypothesis[]
  /** Rounds that speak against the best hypothesis and were seen only once: they are looked at again. */
  against: number[]
}

export const sameFeeds = (a: string[], b: string[]) => a.length === b.length && a.every((id) => b.includes(id))

/** A light goes out only when every breaker that feeds it is open. */
export function predicted(hypothesis: Pick<Hypothesis, 'breakerIds'>, open: ReadonlySet<string>): Seen {
  return hypothesis.breakerIds.length > 0 && hypothesis.breakerIds.every((id) => open.has(id)) ? 'off' : 'on'
}

/** Could this be seen? With one of two breakers open, one lamp of two may be off, or one lamp that both feed is on. */
function couldBe(hypothesis: Pick<Hypothesis, 'breakerIds'>, open: ReadonlySet<string>, seen: Seen): boolean {
  const some = hypothesis.breakerIds.some((id) => open.has(id))
  return seen === 'part' ? some && predicted(hypothesis, open) === 'on' : seen === predicted(hypothesis, open)
}

interface Observation {
  open: ReadonlySet<string>
  seen: Seen
  /** How often the same was seen with the same breakers open, last. */
  times: number
  /** The round that showed it last. */
  round: number
}
/** What was seen of a box, by set of open breakers: seen again, the newer word counts; seen alike twice, it counts double. */
function observationsOf(boxId: string, rounds: TracingRound[]): Observation[] {
  const bySet = new Map<string, Observation>()
  for (const [round, { open, seen }] of rounds.entries()) {
    const what = seen[boxId]
    if (!what) continue
    const key = [...open].sort().join()
    const before = bySet.get(key)
    bySet.set(key, { open: new Set(open), seen: what, times: before?.seen === what ? before.times + 1 : 1, round })
  }
  return [...bySet.values()]
}

/** What the rounds so far say about one box. */
export function beliefOf(load: TracedBox, rounds: TracingRound[]): Belief {
  const observations = observationsOf(load.boxId, rounds)
  const judged = load.hypotheses.map((hypothesis) => {
    const against = observations.filter((one) => !couldBe(hypothesis, one.open, one.seen))
    return { hypothesis, against, weightAgainst: against.reduce((sum, one) => sum + one.times, 0) }
  })
  const fewest = Math.min(...judged.map((one) => one.weightAgainst))
  const byWeight = (a: { hypothesis: Hypothesis }, b: { hypothesis: Hypothesis }) => b.hypothesis.weight - a.hypothesis.weight
  const fitting = judged.filter((one) => one.weightAgainst === fewest).sort(byWeight)
  // Two breakers at once are looked at only when one or none does not explain what was seen.
  const single = fitting.filter((one) => one.hypothesis.breakerIds.length < 2)
  const best = single.length ? single : fitting
  const total = best.reduce((sum, one) => sum + one.hypothesis.weight, 0)
  const rivals = judged
    .filter((one) => !best.includes(one) && (one.hypothesis.breakerIds.length < 2 ? one.weightAgainst <= 1 : one.weightAgainst === 0))
    .sort(byWeight)
  return {
    boxId: load.boxId,
    status: fewest > 0 ? 'odd' : best.length > 1 ? 'open' : observations.length > 0 && rivals.length === 0 ? 'confirmed' : 'found',
    breakerIds: best[0]!.hypothesis.breakerIds,
    share: total > 0 ? best[0]!.hypothesis.weight / total : 0,
    candidates: best.map((one) => one.hypothesis),
    rivals: rivals.map((one) => one.hypothesis),
    against: best[0]!.against.filter((one) => one.times === 1).map((one) => one.round),
  }
}

const plain = (text: string) =>
  text
    .toLowerCase()
    .split(/[^a-zà-ÿ0-9]+/)
    .filter((word) => word.length > 2)
/** How much one shared word of label and place says: labels are a hint, never a fact. */
const wordWeight = 6
/** Weight of "two breakers" and of "none of this panel" against all single feeds together. Common practice, no source. */
export const pairShare = 0.02
export const noneShare = 0.05

/** What may feed a box before anything was seen: labels as found and the feeds written down weigh in. */
export function loadOf(site: SiteState, box: BoxState, breakers: BreakerRecord[]): TracedBox {
  const words = new Set(plain(`${box.name} ${site.rooms[box.roomId]?.name ?? ''}`))
  const weights = breakers.map((breaker) => {
    const shared = plain(breaker.labelAsFound).filter((word) => words.has(word)).length
    return (1 + wordWeight * shared) * (box.breakerIds.includes(breaker.id) ? 8 : 1)
  })
  const total = weights.reduce((sum, weight) => sum + weight, 0)
  const share = (index: number) => weights[index]! / total
  const pairs = breakers.flatMap((first, a) =>
    breakers.slice(a + 1).map((second, b) => ({ breakerIds: [first.id, second.id], weight: pairShare * share(a) * share(a + 1 + b) })),
  )
  return {
    boxId: box.id,
    hypotheses: [
      ...breakers.map((breaker, index) => ({ breakerIds: [breaker.id], weight: (1 - pairShare - noneShare) * share(index) })),
      { breakerIds: [], weight: noneShare },
      ...pairs,
    ],
  }
}
