import { Op, type Transaction, type WhereOptions } from 'sequelize'
import type { DayVisit } from '../../core/protocol'
import { database, type JobRow, type SiteRow, type VisitRow } from '../database'
import { isOffice, jobFor, type Viewer } from './access'
import { notFound } from './errors'

type Visiting = VisitRow & { site: SiteRow; job: JobRow; crew: { personId: string }[] }
/** Visits with home, job and their people in order. */
export const visitsWithCrew = async (where: WhereOptions, transaction?: Transaction): Promise<Visiting[]> =>
  (
    await database().models.visits.findAll({
      where,
      include: ['site', 'job', 'crew'],
      order: [
        // Two that begin together stay in their places, however often it is asked.
        ['startsAt', 'ASC'],
        ['id', 'ASC'],
        ['crew', 'position', 'ASC'],
      ],
      transaction,
    })
  ).map((row) => row.get({ plain: true }) as Visiting)

/** When a visit is booked and what was promised, as it goes over the line. */
export const isoTimes = ({
  startsAt,
  endsAt,
  windowFrom,
  windowTo,
}: Pick<VisitRow, 'startsAt' | 'endsAt' | 'windowFrom' | 'windowTo'>) => ({
  startsAt: startsAt.toISOString(),
  endsAt: endsAt.toISOString(),
  windowFrom: windowFrom.toISOString(),
  windowTo: windowTo.toISOString(),
})
/** What became of it. */
export const isoCourse = ({ setOffAt, arrivedAt, finishedAt }: Pick<VisitRow, 'setOffAt' | 'arrivedAt' | 'finishedAt'>) => ({
  setOffAt: setOffAt?.toISOString() ?? null,
  arrivedAt: arrivedAt?.toISOString() ?? null,
  finishedAt: finishedAt?.toISOString() ?? null,
})

/** Visits between two instants, with their crew and the tags hanging at their sites. */
export async function visitsBetween(
  viewer: Viewer,
  from: Date,
  to: Date,
  options: { branchId?: string; personId?: string },
): Promise<DayVisit[]> {
  const { models } = database()
  const branchId = isOffice(viewer) ? options.branchId : viewer.branchId
  const rows = await visitsWithCrew({
    companyId: viewer.companyId,
    ...(branchId ? { [Op.or]: [{ branchId }, { jobId: viewer.guestOf }] } : {}),
    startsAt: { [Op.lt]: to },
    endsAt: { [Op.gt]: from },
    status: { [Op.ne]: 'cancelled' },
  })
  if (rows.length === 0) return []
  const siteIds = [...new Set(rows.map(({ siteId }) => siteId))]
  const tags = await models.hangingTags.findAll({ where: { siteId: siteIds }, attributes: ['siteId', 'initials'], raw: true })
  return rows
    .map(({ site, job, crew, ...row }) => ({
      id: row.id,
      jobId: row.jobId,
      siteId: row.siteId,
      branchId: row.branchId,
      kind: row.kind,
      status: row.status,
      callbackId: row.callbackId,
      ...isoTimes(row),
      ...isoCourse(row),
      expectedAt: row.expectedAt?.toISOString() ?? null,
      personIds: crew.map(({ personId }) => personId),
      jobTitle: job.title,
      jobNumber: job.number,
      jobStatus: job.status,
      siteName: site.name,
      address: site.address,
      points: job.points,
      passed: job.passed,
      failed: job.failed,
      tags: tags.filter((tag) => tag.siteId === row.siteId).map((tag) => tag.initials),
    }))
    .filter((visit) => !options.personId || visit.personIds.includes(options.personId))
}

export async function visitFor(viewer: Viewer, visitId: string): Promise<VisitRow> {
  const visit = await database().models.visits.findByPk(visitId, { raw: true })
  if (!visit || visit.companyId !== viewer.companyId) throw notFound('This visit')
  await jobFor(viewer, visit.jobId)
  return visit
}
/** Who is on a visit, whoever leads first. */
export const peopleOn = async (visitId: string): Promise<string[]> =>
  (
    await database().models.visitPeople.findAll({
      where: { visitId },
      order: [['position', 'ASC']],
      attributes: ['personId'],
      raw: true,
    })
  ).map(({ personId }) => personId)
/** Ids of all visits that any of these people are or were on. */
export const visitsOf = async (personIds: string[]): Promise<string[]> => [
  ...new Set(
    (await database().models.visitPeople.findAll({ where: { personId: personIds }, attributes: ['visitId'], raw: true })).map(
      ({ visitId }) => visitId,
    ),
  ),
]
/** First names of who comes: more is nobody’s business on the telephone of a stranger. */
export async function firstNamesOn(visitId: string): Promise<string[]> {
  const ids = await peopleOn(visitId)
  const rows = await database().models.people.findAll({ where: { id: ids }, attributes: ['id', 'name'], raw: true })
  return ids.flatMap((id) => rows.find((row) => row.id === id)?.name.split(' ')[0] ?? [])
}
