import { counted } from '../../core/units/counted'
import { v7 as uuid } from 'uuid'
import { intakeCommands, type FileReading, type JobFile } from '../../core/format'
import { inTrade, type SchemeId } from '../../core/units'
import type { IntakeRequest, IntakeSource, KnownHome } from '../../core/protocol'
import { database, joined, transacted, type CustomerRow, type SiteRow } from '../database'
import { hub } from '../realtime/hub'
import { branchFor, siteFor, type Viewer } from './access'
import { plainAddress } from './address'
import { rulesOf } from './branch-rules'
import { byProgram } from './asked'
import { ApiError, wasErased } from './errors'
import { announce } from './feed'
import { seal } from './secrets'
import { lockState } from './streams'
import { Beside } from './thread'
import { readIntake } from '../workers/read-intake'
import { parseCommand, publish, writeCommand, type Written } from './write-command'

const digits = (text: string) => text.replace(/\D+/g, '').slice(-9)

/**
 * Homes of the company that may be the one in this file: by address, by name, or by the customer's telephone or mail.
 * Two records of one home would be two energy records: a permit to close in one while a tag hangs in the other.
 */
export async function knownHomes(file: JobFile, companyId: string): Promise<KnownHome[]> {
  const rows = await joined<SiteRow & { customer: CustomerRow }>(database().models.sites, {
    where: { companyId, erasedAt: null },
    include: ['customer'],
  })
  const { customer, site } = file
  return rows.flatMap(({ id, name, address, customer: { name: who, phone, email } }) => {
    const why = [
      ...(plainAddress(address) && plainAddress(address) === plainAddress(site.address) ? ['the same address'] : []),
      ...(plainAddress(name) === plainAddress(site.name) ? ['the same name'] : []),
      ...(digits(phone).length >= 6 && digits(phone) === digits(customer.phone) ? ['the customer’s telephone'] : []),
      ...(email && email.toLowerCase() === customer.email.toLowerCase() ? ['the customer’s mail'] : []),
    ]
    return why.length ? [{ id, name, address, customer: who, why }] : []
  })
}

const reading = new Beside<IntakeSource, FileReading<JobFile>>('intake', readIntake, {
  // Choices of ours, no source: what a home of hundreds of points takes, many times over.
  ...{ mostWaiting: 20, longest: 10_000 },
  whenManyWait: () => new ApiError(503, 'filesWait', 'Many files are being read just now. Try again in a minute.'),
  whenTooLong: () => new ApiError(422, 'fileTooLong', 'This file takes too long to read. Nothing was imported. Bring it in parts.'),
})

/** Checks a source without storing anything; what is wrong is said in the words of the branch that reads it. */
export async function checkIntake(source: IntakeSource, schemeId: SchemeId): Promise<JobFile> {
  const read = await reading.made(source)
  if (!read.ok)
    throw new ApiError(
      422,
      'fileBroken',
      `${counted(read.problems.length, 'thing is', 'things are')} wrong in this file. Nothing was imported.`,
      inTrade(read.problems, schemeId),
    )
  return read.value
}

/** Opens a job from a file or a form: customer, site, layout and job, or nothing at all. Returns the job's id. */
export async function openJob(
  { source, branchId, siteId, newHome }: IntakeRequest,
  viewer: Viewer,
  now = new Date(),
): Promise<{ jobId: string; siteId: string }> {
  const branch = await branchFor(viewer, branchId)
  const file = await checkIntake(source, branch.schemeId)
  if (file.site.scheme !== branch.schemeId)
    throw new ApiError(
      422,
      'schemeDiffers',
      `${branch.name} works in ${branch.schemeId === 'na120' ? '120/240 V' : '230 V'}; this file is for the other supply.`,
      [{ where: 'site.scheme', problem: 'Belongs to a branch with the other supply scheme.' }],
    )
  const known = siteId ? await siteFor(viewer, siteId) : null
  if (known && known.branchId !== branchId) throw new ApiError(422, 'branchDiffers', 'This home belongs to another branch.')
  const alike = known || newHome ? [] : await knownHomes(file, viewer.companyId)
  if (alike.length)
    throw new ApiError(
      409,
      'knownHome',
      `Is it this home? ${alike.map((home) => `${home.name}, ${home.address} (${home.why.join(', ')})`).join('; ')}.`,
      { homes: alike },
    )
  const { models } = database()
  const settings = rulesOf(branch)
  const place = { companyId: viewer.companyId, branchId }
  const ids = { siteId: known?.id ?? uuid(), jobId: uuid() }
  const written = await transacted(async (transaction) => {
    // One intake of a company at a time: job numbers have no gaps.
    await models.companies.findByPk(viewer.companyId, { transaction, lock: transaction.LOCK.UPDATE })
    const owner = known && (await models.customers.findByPk(known.customerId, { transaction, raw: true }))
    // Of whoever lived there before nothing is left: the home goes on with whom the work is for now.
    const customerId = owner && !owner.erasedAt ? owner.id : uuid()
    const noSnapshot = { seq: 0, snapshotVersion: null, snapshotSeq: 0, snapshot: null, edition: 0 }
    if (customerId !== owner?.id)
      await models.customers.create({ id: customerId, companyId: viewer.companyId, ...file.customer }, { transaction })
    if (known && customerId !== owner?.id) await models.sites.update({ customerId }, { where: { id: known.id }, transaction })
    if (!known) {
      await models.sites.create(
        {
          id: ids.siteId,
          ...place,
          customerId,
          name: file.site.name,
          address: file.site.address,
          yearBuilt: file.site.yearBuilt,
          doorCodeSealed: file.site.doorCode ? seal(file.site.doorCode) : null,
          longitude: null,
          latitude: null,
        },
        { transaction },
      )
      await models.streams.create({ id: ids.siteId, kind: 'site', ...place, ...noSnapshot }, { transaction })
    }
    const siteRow = known ?? (await models.sites.findByPk(ids.siteId, { transaction }))!
    const number = (Number(await models.jobs.max('number', { where: { companyId: viewer.companyId }, transaction })) || 1000) + 1
    const jobRow = await models.jobs.create(
      {
        id: ids.jobId,
        ...place,
        siteId: ids.siteId,
        customerId,
        number,
        title: file.job.title,
        createdAt: now,
        status: 'toSchedule',
        points: 0,
        passed: 0,
        failed: 0,
        openDefects: 0,
      },
      { transaction },
    )
    await models.streams.create({ id: ids.jobId, kind: 'job', ...place, ...noSnapshot }, { transaction })
    const home = known && (await lockState('site', ids.siteId, transaction))!
    if (home?.row.erasedAt) throw wasErased()
    const before = home?.state ?? null
    const commands = intakeCommands(file, ids.siteId, uuid, before)
    const results: Written[] = []
    for (const [stream, row, command] of [
      ['site', siteRow, commands.layOut],
      ['job', jobRow, commands.openJob],
      ...commands.survey.map((command) => ['site', siteRow, command] as const),
    ] as const) {
      const envelope = byProgram(stream, row.id, command, now)
      const result = await writeCommand({ envelope, command: parseCommand(envelope), viewer, now, row, settings }, transaction)
      if (result.outcome.status === 'refused')
        throw new ApiError(
          422,
          'fileRefused',
          result.outcome.refusal.reasons.join(' '),
          result.outcome.refusal.reasons.map((problem) => ({ where: '(file)', problem })),
        )
      results.push(result)
    }
    await announce(viewer.companyId, [{ topic: 'jobs', branchId }], transaction)
    return results
  })
  publish(viewer.companyId, written)
  hub.wake(viewer.companyId)
  return ids
}
