import { DateTime } from 'luxon'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { dispatch } from '../../core/protocol'
import { anybody, durationOf, spreadOf, workLeft, type Learned, type Position } from '../../core/dispatch'
import { seenBy, toVisit, type Visit } from '../../core/job'
import { clockAt } from '../../core/units/clock-at'
import { leftBehind } from '../../core/site'
import { reserved } from '../../core/stock'
import { modelsToCarry } from '../../core/triage'
import { database, transacted, type BranchRow, type JobRow, type SiteRow } from '../database'
import { routing } from '../stand-ins/routing'
import { awayBetween } from './requests'
import { branchFor, isLicensed, siteFor, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { learnedIn } from './durations'
import { announce } from './feed'
import { hub } from '../realtime/hub'
import { reorderOf } from './reorder'
import { readState } from './streams'
import { isoCourse, isoTimes, visitsWithCrew } from './visits'

type Day = z.output<typeof dispatch.readDay.answer>
/** So much work waits at most that a day is planned with; the oldest first. */
const mostOpen = 60

/** Where a home is: as somebody showed it, else as its address says. */
export async function positionOf({ longitude, latitude, address }: Pick<SiteRow, 'longitude' | 'latitude' | 'address'>) {
  if (longitude !== null && latitude !== null) return { position: [longitude, latitude] as Position, shown: true }
  return { position: await routing.find(address), shown: false }
}

/** What a visit of a job takes: time, with its spread, and people. */
export async function expected(jobId: string, siteId: string, kind: Visit['kind'], learned: Learned, people: readonly string[]) {
  const [job, site] = await Promise.all([readState('job', jobId), readState('site', siteId)])
  const duration = durationOf(workLeft(job, site, kind), learned, people)
  return { minutes: Math.max(5, duration.minutes), spread: spreadOf(duration), needs: job.needs ?? anybody }
}

async function tiedAt(siteId: string, personIds: string[]): Promise<string | null> {
  const site = await readState('site', siteId)
  for (const id of personIds) {
    const left = leftBehind(site, id)
    if (left) return `${site.people[id]?.name ?? 'Somebody'} has ${left} there.`
  }
  return null
}

/** Vans that have on board what a visit needs: what its job was sold, or what a callback takes along; null where it needs nothing. */
async function vansByParts({
  id: branchId,
  companyId,
}: BranchRow): Promise<(visit: { jobId: string; callbackId: string | null }) => Promise<string[] | null>> {
  const where = { companyId, branchId }
  const { models } = database()
  const [needs, vans, devices] = await Promise.all([
    models.partNeeds.findAll({ where, raw: true }),
    models.stockPlaces.findAll({ where: { ...where, kind: 'van', active: true }, attributes: ['id'], raw: true }),
    models.articles.findAll({ where: { ...where, kind: 'device', active: true }, attributes: ['id', 'refId'], raw: true }),
  ])
  const levels = await models.stockLevels.findAll({ where: { placeId: vans.map(({ id }) => id) }, raw: true })
  const lies = new Map(levels.map(({ placeId, articleId, quantity }) => [`${placeId} ${articleId}`, quantity]))
  return async ({ jobId, callbackId }) => {
    // A model that is no article lies in no van by the record: nobody is sent to the store for it.
    const wanted = callbackId
      ? modelsToCarry(await readState('job', jobId), callbackId).flatMap((modelId) => {
          const articleIds = devices.filter(({ refId }) => refId === modelId).map(({ id }) => id)
          return articleIds.length ? [{ articleIds, count: 1 }] : []
        })
      : needs.flatMap((need) =>
          need.jobId === jobId && reserved(need) > 0 ? [{ articleIds: [need.articleId], count: reserved(need) }] : [],
        )
    if (!wanted.length) return null
    const has = (van: string, articleIds: string[]) => articleIds.reduce((sum, id) => sum + (lies.get(`${van} ${id}`) ?? 0), 0)
    return vans.flatMap(({ id }) => (wanted.every(({ articleIds, count }) => has(id, articleIds) >= count) ? [id] : []))
  }
}

/** What a branch has to do on a day, and with whom. */
export async function dispatchDay(viewer: Viewer, branchId: string, date: string): Promise<Day> {
  const branch = await branchFor(viewer, branchId)
  const { models } = database()
  const { day } = rulesOf(branch)
  const zone = branch.timezone
  const midnight = DateTime.fromISO(date, { zone }).startOf('day')
  const at = (clock: string) => clockAt(midnight, clock)
  const instant = (moment: DateTime) => moment.toUTC().toISO()!
  const [vansWith, away, lines, rows, people, waiting, learned] = await Promise.all([
    vansByParts(branch),
    awayBetween(viewer.companyId, midnight.toJSDate(), midnight.plus({ days: 1 }).toJSDate()),
    reorderOf(branch, new Date()),
    visitsWithCrew({
      companyId: viewer.companyId,
      branchId,
      status: { [Op.ne]: 'cancelled' },
      startsAt: { [Op.lt]: midnight.plus({ days: 1 }).toJSDate() },
      endsAt: { [Op.gt]: midnight.toJSDate() },
    }),
    models.people.findAll({ where: { companyId: viewer.companyId, branchId, active: true } }),
    openWork(branch),
    learnedIn(viewer.companyId, branchId),
  ])
  const guests = [...new Set(rows.flatMap(({ crew }) => crew.map(({ personId }) => personId)))].filter(
    (id) => !people.some((one) => one.id === id),
  )
  if (guests.length) people.push(...(await models.people.findAll({ where: { id: guests, companyId: viewer.companyId } })))
  const visits = await Promise.all(
    rows.map(async ({ crew, ...row }) => {
      const personIds = crew.map(({ personId }) => personId)
      const kind = row.kind as Visit['kind']
      return {
        id: row.id,
        jobId: row.jobId,
        siteId: row.siteId,
        kind,
        callbackId: row.callbackId,
        status: row.status as 'planned' | 'onSite' | 'done',
        personIds,
        ...isoTimes(row),
        ...isoCourse(row),
        partsIn: await vansWith(row),
        ...(await expected(row.jobId, row.siteId, kind, learned, personIds)),
        tied: row.status === 'done' ? null : await tiedAt(row.siteId, personIds),
      }
    }),
  )
  const lacksOf = ({ jobId, callbackId }: { jobId: string; callbackId: string | null }) =>
    callbackId
      ? null
      : lines
          .filter(({ instead }) => !instead)
          .flatMap(({ name, jobs }) => jobs.flatMap(({ id, short }) => (id === jobId && short > 0 ? [`${short} × ${name}`] : [])))
          .join(', ') || null
  const open = await Promise.all(
    waiting.map(async (one) => ({
      ...one,
      lacks: lacksOf(one),
      partsIn: await vansWith(one),
      ...(await expected(one.jobId, one.siteId, one.kind, learned, [])),
    })),
  )
  const siteIds = [...new Set([...visits, ...open].map(({ siteId }) => siteId))]
  const sites = await models.sites.findAll({ where: { id: siteIds }, raw: true })
  return {
    zone,
    date,
    shift: {
      from: instant(at(day.shiftFrom)),
      to: instant(at(day.shiftTo)),
      latest: instant(at(day.shiftTo).plus({ minutes: day.overtimeMinutes })),
    },
    rest: day.restMinutes ? { minutes: day.restMinutes, from: instant(at(day.restFrom)), to: instant(at(day.restTo)) } : null,
    store: day.storeAddress ? await routing.find(day.storeAddress) : null,
    away: away.filter(({ personId }) => people.some(({ id }) => id === personId)),
    people: people.map((person) => ({
      ...{ id: person.id, role: person.role, vanId: person.vanId, skills: person.skills as string[] },
      licensed: isLicensed(person),
    })),
    homes: await Promise.all(sites.map(async (site) => ({ siteId: site.id, name: site.name, ...(await positionOf(site)) }))),
    visits,
    open,
  }
}

/** Jobs and callbacks without a visit before them, the oldest first. */
export async function openWork(branch: BranchRow) {
  const { id: branchId, companyId } = branch
  const { day, timezone } = rulesOf(branch)
  const { models } = database()
  const [jobs, callbacks, planned] = await Promise.all([
    models.jobs.findAll({
      where: { companyId, branchId, status: ['toSchedule', 'between'] },
      order: [
        ['createdAt', 'ASC'],
        ['id', 'ASC'],
      ],
      limit: mostOpen,
      raw: true,
    }),
    models.callbacks.findAll({
      // What was mended on the telephone waits for a call, not for a visit.
      where: { companyId, branchId, status: [...toVisit] },
      order: [
        ['openedAt', 'ASC'],
        ['id', 'ASC'],
      ],
      limit: mostOpen,
      raw: true,
    }),
    models.visits.findAll({
      where: { companyId, branchId, status: ['planned', 'onSite'] },
      attributes: ['jobId', 'callbackId'],
      raw: true,
    }),
  ])
  const coming = new Set(planned.map(({ callbackId }) => callbackId))
  const booked = new Set(planned.map(({ jobId }) => jobId))
  const kindOf = async (job: JobRow): Promise<Visit['kind']> => {
    const { visits } = await readState('job', job.id)
    return Object.values(visits).some(({ kind }) => kind === 'survey') || job.points > 0 ? 'install' : 'survey'
  }
  return [
    ...callbacks
      .filter(({ id }) => !coming.has(id))
      .map(({ id, jobId, siteId, openedAt, danger }) => ({
        id,
        jobId,
        siteId,
        kind: 'callback' as const,
        callbackId: id,
        since: openedAt.toISOString(),
        by: seenBy({ openedAt: openedAt.toISOString(), danger: Boolean(danger) }, day, timezone),
      })),
    ...(await Promise.all(
      jobs
        .filter(({ id }) => !booked.has(id))
        .map(async (job) => ({
          id: job.id,
          jobId: job.id,
          siteId: job.siteId,
          kind: await kindOf(job),
          callbackId: null,
          since: job.createdAt.toISOString(),
          by: null,
        })),
    )),
  ]
}

/** Somebody shows where a home is. */
export async function placeHome(viewer: Viewer, siteId: string, position: Position | null): Promise<{ ok: true }> {
  const site = await siteFor(viewer, siteId)
  await transacted(async (transaction) => {
    await database().models.sites.update(
      { longitude: position?.[0] ?? null, latitude: position?.[1] ?? null },
      { where: { id: site.id, erasedAt: null }, transaction },
    )
    await announce(viewer.companyId, [{ topic: 'jobs', branchId: site.branchId }], transaction)
  })
  hub.wake(viewer.companyId)
  return { ok: true }
}
