import {
  asBooked,
  proposalOf,
  questionOf,
  searchPlan,
  usualWeights,
  type DayFile,
  type DayWeights,
  type Proposal,
} from '../../core/dispatch'
import type { WayId } from '../utils/day-search'
import type { Travel } from './day'

export interface SearchQuestion {
  file: DayFile
  travel: Travel
  now: number
  id: WayId
  seed: number
  seconds: number
}
export type SearchAnswer =
  | {
      is: 'way'
      id: WayId
      proposal: Proposal
      /** Points, to compare what was found for the same way. */
      cost: number
      done: boolean
    }
  | { is: 'progress'; share: number }

const say = (answer: SearchAnswer) => self.postMessage(answer)
const weightsOf: Record<WayId, DayWeights> = {
  place: { ...usualWeights, moved: 10 },
  close: { ...usualWeights, otherCrew: 60, moved: 1 },
  free: { ...usualWeights, otherCrew: 5, moved: 0.1 },
}

self.onmessage = ({ data: { file, travel, now, id, seed, seconds } }: MessageEvent<SearchQuestion>) => {
  const shown = questionOf(file, travel, { now, asBooked: true })
  const before = asBooked(shown)
  // Only the free way asks anybody to be at home sooner than was said.
  const question = questionOf(file, travel, { now, weights: weightsOf[id], asBooked: id !== 'free' })
  if (id === 'place')
    // Whoever was told something keeps it.
    question.problem = {
      ...question.problem,
      visits: question.problem.visits.map((visit) => (visit.promised ? { ...visit, pinned: visit.promised.crews } : visit)),
    }
  const began = performance.now()
  let toldAt = 0
  const usedUp = () => {
    const spent = performance.now() - began
    if (spent - toldAt > 250) {
      toldAt = spent
      say({ is: 'progress', share: Math.min(1, spent / (seconds * 1000)) })
    }
    return spent / (seconds * 1000)
  }
  const tell = (plan: Parameters<typeof proposalOf>[2], done: boolean) =>
    say({ is: 'way', id, proposal: proposalOf(shown, before, plan), cost: plan.cost, done })
  const plan = searchPlan(question.problem, { seed, usedUp, warm: question.booked, onBetter: (better) => tell(better, false) })
  tell(plan, true)
}
