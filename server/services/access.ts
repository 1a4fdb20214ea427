import { QueryTypes } from 'sequelize'
import type { Viewer as PublicViewer } from '../../core/protocol'
import type { Actor, PersonRole } from '../../core/stream'
import { database, type BranchRow, type JobRow, type PersonRow, type SiteRow } from '../database'
import { forbidden, notFound } from './errors'

/** The person behind a request, read fresh from the database. */
export type Viewer = PublicViewer & Pick<Actor, 'via'>

export const officeRoles: PersonRole[] = ['dispatcher', 'lead']
export const isOffice = (viewer: Pick<Viewer, 'role'>) => officeRoles.includes(viewer.role)

/** An apprentice holds no licence, whatever the register says. */
export const isLicensed = (person: PersonRow): boolean => Boolean(person.licensed) && person.role !== 'apprentice'

export async function viewerOf(person: PersonRow): Promise<Viewer> {
  const { id: personId, companyId, branchId, name, initials, role } = person
  const guestOf = officeRoles.includes(role) ? [] : await guestPlaces(personId, branchId)
  return { personId, companyId, branchId, name, initials, role, licensed: isLicensed(person), guestOf }
}

/** Somebody who helps another branch sees that job and home for as long as they are on its visit or their tag hangs there. */
// Asked with every request of a technician: one union instead of three round trips.
async function guestPlaces(personId: string, branchId: string): Promise<string[]> {
  const rows = await database().sequelize.query<{ siteId: string; jobId: string | null }>(
    `SELECT v.site_id AS siteId, v.job_id AS jobId FROM visits v JOIN visit_people p ON p.visit_id = v.id WHERE p.person_id = :personId AND v.status IN ('planned', 'onSite') AND v.branch_id <> :branchId
     UNION SELECT t.site_id, NULL FROM hanging_tags t WHERE t.person_id = :personId AND t.branch_id <> :branchId
     UNION SELECT a.site_id, NULL FROM open_alarms a WHERE a.person_id = :personId AND a.branch_id <> :branchId`,
    { replacements: { personId, branchId }, type: QueryTypes.SELECT },
  )
  return [...new Set(rows.flatMap(({ siteId, jobId }) => (jobId ? [siteId, jobId] : [siteId])))]
}

export const actorOf = ({ personId, name, initials, role, licensed, via }: Viewer): Actor => ({
  personId,
  name,
  initials,
  role,
  licensed,
  ...(via ? { via } : {}),
})

/** What a session cookie says. */
interface SignIn {
  personId: string
  epoch: number
  sessionId: string
}
/** When a session was used last is written down no more often, ms. */
const seenEveryMs = 5 * 60_000
/** The active person of a session, or null when it ended, moved on or was signed out everywhere. */
export async function viewerOfSession({ personId, epoch, sessionId }: SignIn): Promise<Viewer | null> {
  const { models } = database()
  const [person, session] = await Promise.all([
    models.people.findByPk(personId),
    models.sessions.findOne({ where: { id: sessionId, personId }, raw: true }),
  ])
  if (!session || !person || !person.active || person.sessionEpoch !== epoch) return null
  if (Date.now() - session.seenAt.getTime() > seenEveryMs)
    void models.sessions.update({ seenAt: new Date() }, { where: { id: sessionId } }).catch(() => undefined)
  return viewerOf(person)
}

/** Rows that are a person's to see, where each belongs to a branch: the office's are the company's. */
export const ownRows = (viewer: Viewer) => ({ companyId: viewer.companyId, ...(isOffice(viewer) ? {} : { branchId: viewer.branchId }) })

/** The office sees every branch of its company; technicians and apprentices see their own. */
export function seesBranch(viewer: Viewer, row: { companyId: string; branchId: string }): boolean {
  return row.companyId === viewer.companyId && (isOffice(viewer) || row.branchId === viewer.branchId)
}

export async function jobFor(viewer: Viewer, jobId: string): Promise<JobRow> {
  const job = await database().models.jobs.findByPk(jobId)
  const guest = job && job.companyId === viewer.companyId && [job.id, job.siteId].some((id) => viewer.guestOf.includes(id))
  if (!job || !(guest || seesBranch(viewer, job))) throw notFound('This job')
  return job
}

export async function siteFor(viewer: Viewer, siteId: string): Promise<SiteRow> {
  const site = await database().models.sites.findByPk(siteId)
  const guest = site && site.companyId === viewer.companyId && viewer.guestOf.includes(site.id)
  if (!site || !(guest || seesBranch(viewer, site))) throw notFound('This site')
  return site
}

export async function branchFor(viewer: Viewer, branchId: string): Promise<BranchRow> {
  const branch = await database().models.branches.findByPk(branchId)
  if (!branch || !seesBranch(viewer, { companyId: branch.companyId, branchId: branch.id })) throw notFound('This branch')
  return branch
}

export function needRole(viewer: Viewer, roles: PersonRole[], sentence: string): void {
  if (!roles.includes(viewer.role)) throw forbidden(sentence)
}

/** People of a company by id, for names beside events. */
export async function peopleNames(companyId: string): Promise<Map<string, string>> {
  const people = await database().models.people.findAll({ where: { companyId }, attributes: ['id', 'name'] })
  return new Map(people.map((person) => [person.id, person.name]))
}
