import { DateTime } from 'luxon'
import { Op } from 'sequelize'
import { weekOf } from '../../core/dispatch'
import type { AnswerOf, dispatch } from '../../core/protocol'
import { clockAt } from '../../core/units/clock-at'
import { database } from '../database'
import { branchFor, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { expected, openWork } from './dispatch-day'
import { learnedIn } from './durations'
import { awayBetween } from './requests'
import { visitsWithCrew } from './visits'

const daysShown = 7

export async function dispatchWeek(viewer: Viewer, branchId: string, from: string): Promise<AnswerOf<typeof dispatch.readWeek>> {
  const branch = await branchFor(viewer, branchId)
  const { day } = rulesOf(branch)
  const first = DateTime.fromISO(from, { zone: branch.timezone }).startOf('day')
  const last = first.plus({ days: daysShown })
  const iso = (moment: DateTime) => moment.toUTC().toISO()!
  const [people, away, rows, open, learned] = await Promise.all([
    database().models.people.findAll({ where: { companyId: viewer.companyId, branchId, active: true }, raw: true }),
    awayBetween(viewer.companyId, first.toJSDate(), last.toJSDate()),
    visitsWithCrew({
      companyId: viewer.companyId,
      branchId,
      status: { [Op.ne]: 'cancelled' },
      startsAt: { [Op.gte]: first.toJSDate(), [Op.lt]: last.toJSDate() },
    }),
    openWork(branch),
    learnedIn(viewer.companyId, branchId),
  ])
  const waiting = await Promise.all(open.map((one) => expected(one.jobId, one.siteId, one.kind, learned, [])))
  return {
    days: weekOf(
      Array.from({ length: daysShown }, (_, index) => {
        const midnight = first.plus({ days: index })
        return {
          date: midnight.toISODate()!,
          from: iso(midnight),
          to: iso(midnight.plus({ days: 1 })),
          worked: day.workdays.includes(midnight.weekday),
          shift: { from: iso(clockAt(midnight, day.shiftFrom)), to: iso(clockAt(midnight, day.shiftTo)) },
          restMinutes: day.restMinutes,
        }
      }),
      people,
      away,
      rows.map(({ crew, startsAt, endsAt }) => ({
        personIds: crew.map(({ personId }) => personId),
        startsAt: startsAt.toISOString(),
        endsAt: endsAt.toISOString(),
      })),
    ),
    waiting: { count: open.length, minutes: waiting.reduce((sum, one) => sum + one.minutes, 0) },
  }
}
