import type { Actor, PersonRole } from '../../core/stream'
import { database, type BranchRow, type JobRow, type PersonRow, type SiteRow } from '../database'
import { forbidden, notFound } from './errors'

/** The person behind a request, read fresh from the database. */
export interface Viewer extends Actor {
  companyId: string
  branchId: string
}

export const officeRoles: PersonRole[] = ['dispatcher', 'lead']
export const isOffice = (viewer: Pick<Viewer, 'role'>) => officeRoles.includes(viewer.role)

export function viewerOf(person: PersonRow): Viewer {
  const { id: personId, companyId, branchId, name, initials, role, licensed } = person
  return { personId, companyId, branchId, name, initials, role, licensed: Boolean(licensed) }
}

export const actorOf = ({ personId, name, initials, role, licensed, via }: Viewer): Actor => ({
  personId,
  name,
  initials,
  role,
  licensed,
  ...(via ? { via } : {}),
})

/** The active person of a session, or null when it ended, moved on or was signed out everywhere. */
export async function viewerOfSession(personId: string, epoch: number): Promise<Viewer | null> {
  const person = await database().models.people.findByPk(personId)
  return person && person.active && person.sessionEpoch === epoch ? viewerOf(person) : null
}

/** The office sees every branch of its company; technicians and apprentices see their own. */
export function seesBranch(viewer: Viewer, row: { companyId: string; branchId: string }): boolean {
  return row.companyId === viewer.companyId && (isOffice(viewer) || row.branchId === viewer.branchId)
}

export async function jobFor(viewer: Viewer, jobId: string): Promise<JobRow> {
  const job = await database().models.jobs.findByPk(jobId)
  if (!job || !seesBranch(viewer, job)) throw notFound('This job')
  return job
}

export async function siteFor(viewer: Viewer, siteId: string): Promise<SiteRow> {
  const site = await database().models.sites.findByPk(siteId)
  if (!site || !seesBranch(viewer, site)) throw notFound('This site')
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
