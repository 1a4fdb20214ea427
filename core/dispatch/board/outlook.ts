import { manyDays, timePlan, type TimedPlan } from '../plan'
import type { DayQuestion } from './problem'

/** How a day that is booked will go. Instants as ISO text. */
export interface Outlook {
  visits: {
    id: string
    /** On the way to it; null where its home is on no road. */
    leaveAt: string
    arriveAt: string
    startAt: string
    endAt: string
    /** Share of days on which it begins after its promise. */
    late: number
    /** On four of five days it begins so early, or earlier. */
    fourAt: string
    /** Minutes by which it would have to be sooner to keep its promise on four of five days. */
    shortMinutes: number
    way: boolean
  }[]
  crews: { id: string; overtime: number; homeAt: string; travelMinutes: number }[]
}

const iso = (seconds: number) => new Date(Math.round(seconds) * 1000).toISOString()

/** The plan as it stands, played as often as days differ. */
export function outlookOf(question: DayQuestion, plan: TimedPlan, runs = 500): Outlook {
  const { asIs, begin, what, crews, lost, spread } = question
  const many = manyDays(asIs, plan.routes, { runs, seed: 1, spread })
  return {
    visits: plan.crews.flatMap(({ stops }) =>
      stops.map(({ visit, arrive, start, end, leave }) => {
        const { late, four, short } = many.visits[visit]!
        const { id, siteId } = what[visit]!.booked ?? what[visit]!.open!
        return {
          id,
          leaveAt: iso(begin + leave),
          arriveAt: iso(begin + arrive),
          startAt: iso(begin + start),
          endAt: iso(begin + end),
          late,
          fourAt: iso(begin + four),
          shortMinutes: short / 60,
          way: !lost.includes(siteId),
        }
      }),
    ),
    crews: plan.crews.map(({ home, travel }, crew) => ({
      id: crews[crew]!.id,
      overtime: plan.routes[crew]!.length ? many.crews[crew]!.overtime : 0,
      homeAt: iso(begin + home),
      travelMinutes: travel / 60,
    })),
  }
}

/** The day as it is booked, with its times. */
export const asBooked = (question: DayQuestion): TimedPlan => timePlan(question.asIs, question.booked, true)!
