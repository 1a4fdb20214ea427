import { randomBytes, randomUUID } from 'node:crypto'
import { v7 as uuid } from 'uuid'
import type { JobCommand } from '../../core/job'
import type { SiteCommand } from '../../core/site'
import type { CommandEnvelope, Outcome, PersonRole } from '../../core/stream'
import { testFile } from '../../core/testing/scenario'
import { closeDatabase, database, migrate } from '../database'
import { viewerOf, type Viewer } from '../services/access'
import { ApiError } from '../services/errors'
import { execute } from '../services/commands'
import { setUp } from '../services/setup'
import { openJob } from '../services/intake'
import { forgetStates } from '../services/streams'

/** A database of its own on the test server, migrated; dropped again at the end. */
export async function openWorld(): Promise<() => Promise<void>> {
  const name = `circuitry_test_${randomBytes(6).toString('hex')}`
  const before = process.env.CIRCUITRY_DB_NAME
  await database().sequelize.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4`)
  await closeDatabase()
  process.env.CIRCUITRY_DB_NAME = name
  forgetStates()
  await migrate(database().sequelize)
  return async () => {
    await database().sequelize.query(`DROP DATABASE ${name}`)
    await closeDatabase()
    process.env.CIRCUITRY_DB_NAME = before
  }
}

/** Status and code of what a service refuses with; null: it did not. */
export const refusedWith = (work: Promise<unknown>): Promise<unknown> =>
  work.then(
    () => null,
    (error: unknown) => (error instanceof ApiError ? [error.status, error.code] : String(error)),
  )

export async function makeCompany(): Promise<{
  lead: Viewer
  add: (role: PersonRole, licensed?: boolean, branchId?: string) => Promise<Viewer>
}> {
  const tag = randomUUID().slice(0, 8)
  const { models, sequelize } = database()
  // Setting up works once; further companies of a test are written directly.
  let lead: Viewer
  if ((await models.companies.count()) === 0) {
    lead = await viewerOf(
      await setUp({
        company: `Company ${tag}`,
        branch: 'One',
        schemeId: 'na120',
        timezone: 'UTC',
        person: { name: 'Lea Lead', initials: 'LL', login: `lead-${tag}`, password: 'otter-lamp-and-quay', licensed: true },
      }),
    )
  } else {
    const companyId = uuid()
    const branchId = uuid()
    await models.companies.create({ id: companyId, name: `Company ${tag}`, createdAt: new Date(), movedTo: null })
    await sequelize.query('INSERT INTO feeds (company_id, seq) VALUES (:companyId, 0)', { replacements: { companyId } })
    await models.branches.create({ id: branchId, companyId, name: 'One', schemeId: 'na120', timezone: 'UTC', settings: {} })
    lead = await viewerOf(
      await models.people.create({
        id: uuid(),
        companyId,
        branchId,
        login: `lead-${tag}`,
        name: 'Lea Lead',
        initials: 'LL',
        role: 'lead',
        licensed: true,
        active: true,
        passwordHash: 'x',
        sessionEpoch: 0,
        pinHash: null,
        vanId: null,
        skills: [],
      }),
    )
  }
  const add = async (role: PersonRole, licensed = true, branchId = lead.branchId) =>
    viewerOf(
      await models.people.create({
        id: uuid(),
        companyId: lead.companyId,
        branchId,
        login: `${role}-${randomUUID().slice(0, 8)}`,
        name: `${role} person`,
        initials: role.slice(0, 2).toUpperCase(),
        role,
        licensed,
        active: true,
        passwordHash: 'x',
        sessionEpoch: 0,
        pinHash: null,
        vanId: null,
        skills: [],
      }),
    )
  return { lead, add }
}

export const open = (viewer: Viewer, file = testFile, siteId: string | null = null) =>
  openJob({ source: { kind: 'json', text: JSON.stringify(file) }, branchId: viewer.branchId, siteId, newHome: siteId === null }, viewer)

type Loose<C> = C extends { type: string } ? { type: C['type'] } & Partial<Omit<C, 'type'>> : never
export const siteCommand = (viewer: Viewer, siteId: string, command: Loose<SiteCommand>, id = uuid()): Promise<Outcome> =>
  execute(
    { id, stream: 'site', streamId: siteId, at: new Date().toISOString(), basedOnSeq: 1_000_000, jobSeq: null, heldMs: 0, command },
    viewer,
  )
export const jobEnvelope = (jobId: string, command: Loose<JobCommand>, id = uuid()): CommandEnvelope => ({
  id,
  stream: 'job',
  streamId: jobId,
  at: new Date().toISOString(),
  basedOnSeq: 0,
  jobSeq: null,
  heldMs: 0,
  command,
})
export const jobCommand = (viewer: Viewer, jobId: string, command: Loose<JobCommand>, id = uuid()): Promise<Outcome> =>
  execute(jobEnvelope(jobId, command, id), viewer)
export { uuid }
