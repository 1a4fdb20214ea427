import { pointsInOrder, type JobState } from '../../job'
import { breakerName, type SiteState } from '../../site'
import { orderOfVisit, type VisitRun } from './order'
import { circuitsOf, workOfVisit } from './work'

/** What a household hears of one circuit. */
export interface CircuitOff {
  breakerId: string
  /** In words of the trade. */
  name: string
  /** Lights of the job that lose power with it. */
  lights: string[]
  /** Why nobody may take it off without asking first; or a motor on it that must not stay off. */
  asks: string[]
  /** Minutes after the beginning. */
  from: number
  to: number
}

/** Circuits that a visit takes off, in the order in which they go. */
export function circuitsOff(job: JobState, site: SiteState, { offs }: VisitRun): CircuitOff[] {
  const feeds = (boxId: string, breakerId: string) => {
    const box = site.boxes[boxId]
    return box !== undefined && circuitsOf(site, box).includes(breakerId)
  }
  return offs
    .map(({ breaker, from, to }): CircuitOff => {
      const known = site.breakers[breaker]
      const on = pointsInOrder(job).filter(({ controls }) => controls.some(({ boxId }) => feeds(boxId, breaker)))
      return {
        ...{ breakerId: breaker, from, to, name: known ? breakerName(site, known) : 'a circuit' },
        lights: on.map((point) => point.name),
        asks: [
          ...(known?.offLimits ? [known.offLimits] : []),
          ...on.flatMap((point) => (point.mustRun ? [`${point.name} must not stay off`] : [])),
        ],
      }
    })
    .sort((a, b) => a.from - b.from || a.to - b.to)
}

/** Looks at few orders: for a server that has others to answer. */
const fewOrders = 1_000
/** The same of a visit as it is expected, roughly: for the customer’s page. */
export const expectedOff = (job: JobState, site: SiteState, people: number): CircuitOff[] =>
  circuitsOff(job, site, orderOfVisit(workOfVisit(job, site, { people }), fewOrders).run)
