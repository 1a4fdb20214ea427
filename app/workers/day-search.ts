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
import type { Travel } from './day'

/** Ways to plan a day: place only what waits, keep close to what was said, or whatever is best. */
export const wayIds = ['place', 'close', 'free'] as const
export type WayId = (typeof wayIds)[number]
export interface SearchQuestion {
  file: DayFile
  travel: Travel
  now: number
  /** For each way. */
  seconds: number
}
export type SearchAnswer =
  { is: 'way'; id: WayId; proposal: Proposal; round: number; done: boolean } | { is: 'progress'; share: number } | { is: 'done' }

const say = (answer: SearchAnswer) => self.postMessage(answer)
const weightsOf: Record<WayId, DayWeights> = {
  place: { ...usualWeights, moved: 10 },
  close: { ...usualWeights, otherCrew: 60, moved: 1 },
  free: { ...usualWeights, otherCrew: 5, moved: 0.1 },
}

self.onmessage = ({ data: { file, travel, now, seconds } }: MessageEvent<SearchQuestion>) => {
  const shown = questionOf(file, travel, { now, asBooked: true })
  const before = asBooked(shown)
  wayIds.forEach((id, index) => {
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
        say({ is: 'progress', share: (index + Math.min(1, spent / (seconds * 1000))) / wayIds.length })
      }
      return spent / (seconds * 1000)
    }
    const tell = (plan: Parameters<typeof proposalOf>[2], round: number, done: boolean) =>
      say({ is: 'way', id, proposal: proposalOf(shown, before, plan), round, done })
    const plan = searchPlan(question.problem, {
      seed: 1,
      usedUp,
      warm: question.booked,
      onBetter: (better, round) => tell(better, round, false),
    })
    tell(plan, -1, true)
  })
  say({ is: 'done' })
}
