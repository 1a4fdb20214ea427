import { DateTime } from 'luxon'
import { Op } from 'sequelize'
import { sunOf, sunPlace } from '../../core/automation/year'
import { durationOf, nothingLearned, workLeft } from '../../core/dispatch'
import type { Visit } from '../../core/job'
import type { VisitFacts } from '../../core/protocol'
import { clockAt } from '../../core/units/clock-at'
import { database } from '../database'
import { isLicensed, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { positionOf } from './dispatch-day'
import { learnedIn } from './durations'
import { readState } from './streams'
import { pageOf } from './visit-pages'
import { peopleOn, visitFor, visitsOf, visitsWithCrew } from './visits'
import { wayBetween } from './way'

/** How a visit lies in its day. */
export async function visitFacts(viewer: Viewer, visitId: string): Promise<VisitFacts> {
  const visit = await visitFor(viewer, visitId)
  const { models } = database()
  const [branch, site, page, ids, learned, job, record] = await Promise.all([
    models.branches.findByPk(visit.branchId),
    models.sites.findByPk(visit.siteId, { raw: true }),
    pageOf(visitId),
    peopleOn(visitId),
    learnedIn(visit.companyId, visit.branchId),
    readState('job', visit.jobId),
    readState('site', visit.siteId),
  ])
  const people = await models.people.findAll({ where: { id: ids }, raw: true })
  const rules = rulesOf(branch!)
  const zone = branch!.timezone
  const work = workLeft(job, record, visit.kind as Visit['kind'])
  const usual = durationOf(work, nothingLearned).minutes
  const own = durationOf(work, learned, ids).minutes

  const begin = DateTime.fromJSDate(visit.arrivedAt ?? visit.startsAt, { zone })
  const dayEnds = clockAt(begin.startOf('day'), rules.day.shiftTo).plus({ minutes: rules.day.overtimeMinutes })
  const [next] = await visitsWithCrew({
    id: (await visitsOf(ids)).filter((id) => id !== visitId),
    status: 'planned',
    startsAt: { [Op.gt]: visit.startsAt, [Op.lt]: begin.endOf('day').toJSDate() },
  })
  const here = (await positionOf(site!)).position
  const there = next ? (await positionOf(next.site)).position : null
  let until = next ? DateTime.fromJSDate(next.windowTo, { zone }) : dayEnds
  if (next && here && there) {
    const way = await wayBetween(here, there, next.startsAt.getTime() / 1000, zone)
    if (way) until = until.minus({ seconds: way.arrive - way.leave })
  }
  // A promise after the day’s end does not make the day longer.
  const byNext = next !== undefined && until < dayEnds
  const dusk = here ? sunOf(begin.set({ hour: 12 }).toSeconds(), sunPlace([here[0], here[1]], begin.offset)).sunset : null
  const opens = people.filter((person) => person.role !== 'apprentice').length
  return {
    ready: Object.keys(page.ticks) as VisitFacts['ready'],
    licensed: people.some((person) => isLicensed(person)),
    people: Math.max(1, opens),
    pace: usual > 0 ? Math.min(3, Math.max(0.3, own / usual)) : 1,
    duskAt: dusk === null ? null : new Date(dusk * 1000).toISOString(),
    until: (byNext ? until : dayEnds).toUTC().toISO()!,
    untilWhy: byNext ? { is: 'next', siteName: next.site.name } : { is: 'day', siteName: null },
  }
}
