import { createHash, randomBytes } from 'node:crypto'
import { DateTime } from 'luxon'
import { Op, type Transaction } from 'sequelize'
import { v7 as uuid } from 'uuid'
import { objection, waysOf, type Solution } from '../../core/plan'
import type { Offer, QuoteLineView, sales, BodyOf } from '../../core/protocol'
import {
  allTicked,
  offerOf,
  priceChange,
  priceOf,
  settled,
  takenLines,
  type QuoteContent,
  type QuoteLine,
  type QuotePrice,
  type Ticks,
} from '../../core/quote'
import { quoteContentSchema, ticksSchema } from '../../core/quote/content.schema'
import { sumDifference } from '../../core/money'
import { isSignature } from '../../core/site'
import { regionOf } from '../../core/units'
import { database, transacted, type JobRow, type QuoteRow } from '../database'
import { hub } from '../realtime/hub'
import { jobFor, peopleNames, viewerOf, type Viewer } from './access'
import { byProgram } from './asked'
import { rulesOf } from './branch-rules'
import { needHere } from './companies'
import { ApiError, notFound } from './errors'
import { announce } from './feed'
import { lockedJob } from './locked-job'
import { planSource } from './plan-source'
import { seal, unseal } from './secrets'
import { parseCommand, publish, writeCommand } from './write-command'

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')
export const contentOf = (row: Pick<QuoteRow, 'content'>): QuoteContent => quoteContentSchema.parse(JSON.parse(row.content))
export const ticksOf = (row: Pick<QuoteRow, 'ticks'>): Ticks | null => (row.ticks ? ticksSchema.parse(JSON.parse(row.ticks)) : null)
const linkOf = (row: Pick<QuoteRow, 'tokenSealed'>) => `/offer/${unseal(row.tokenSealed)}`

/** Solutions by id, as they are now; what is not there any more ends it. */
export function resolve(all: Solution[], ids: readonly string[]): Solution[] {
  return ids.map((id) => {
    const found = all.find((one) => one.id === id)
    if (!found)
      throw new ApiError(
        409,
        'planOutOfDate',
        'The home, the lists or the prices changed meanwhile. The plan is worked out anew; look at it, then offer it again.',
      )
    return found
  })
}

export async function listQuotes(viewer: Viewer, jobId: string): Promise<QuoteLineView[]> {
  const job = await jobFor(viewer, jobId)
  const [rows, names] = await Promise.all([
    database().models.quotes.findAll({ where: { jobId: job.id }, order: [['madeAt', 'DESC']], raw: true }),
    peopleNames(viewer.companyId),
  ])
  return rows.map((row) => {
    const content = contentOf(row)
    return {
      id: row.id,
      number: row.number,
      kind: row.kind,
      status: row.status,
      madeAt: row.madeAt.toISOString(),
      madeBy: names.get(row.madeBy) ?? '',
      validUntil: String(row.validUntil),
      decidedAt: row.decidedAt?.toISOString() ?? null,
      signer: row.signer,
      reason: row.reason,
      currency: content.currency,
      totalCents: row.totalCents ?? priceOf(content, ticksOf(row) ?? allTicked(content)).sum.totalCents,
      link: row.status === 'open' && row.kind === 'quote' ? linkOf(row) : null,
    }
  })
}

/** Puts an offer down under the next number of its job. */
export async function putQuote(
  job: JobRow,
  viewer: Viewer,
  kind: QuoteRow['kind'],
  content: QuoteContent,
  days: number,
  zone: string,
  transaction: Transaction,
  now = new Date(),
): Promise<QuoteRow> {
  const { models } = database()
  const version = (Number(await models.quotes.max('version', { where: { jobId: job.id, kind }, transaction })) || 0) + 1
  const token = randomBytes(24).toString('base64url')
  return models.quotes.create(
    {
      id: uuid(),
      companyId: job.companyId,
      branchId: job.branchId,
      jobId: job.id,
      kind,
      version,
      number: `${job.number}-${kind === 'quote' ? '' : 'C'}${version}`,
      status: 'open',
      tokenHash: hashOf(token),
      tokenSealed: seal(token),
      content: JSON.stringify(content),
      ticks: null,
      totalCents: null,
      signer: null,
      strokes: null,
      reason: '',
      madeBy: viewer.personId,
      madeAt: now,
      validUntil: DateTime.fromJSDate(now, { zone }).plus({ days }).toISODate()!,
      decidedAt: null,
    },
    { transaction },
  )
}

export async function makeQuote(
  viewer: Viewer,
  jobId: string,
  { chosen: ids, optional, discountBasisPoints }: BodyOf<typeof sales.makeQuote>,
): Promise<{ id: string; number: string; link: string }> {
  await jobFor(viewer, jobId)
  const source = await planSource(viewer, jobId)
  const ways = waysOf(source)
  const chosen = resolve(ways.problem.solutions, ids)
  const other = optional ? resolve(ways.problem.solutions, optional) : null
  for (const plan of [chosen, ...(other ? [other] : [])]) {
    const against = objection(ways.problem, plan)
    if (against === 'limit')
      throw new ApiError(422, 'planImpossible', 'Two of these solutions want the same place, or there is no room for both.')
    if (against)
      throw new ApiError(
        409,
        'planOutOfDate',
        'The points of the job changed meanwhile. The plan is worked out anew; look at it, then offer it again.',
      )
  }
  if (!chosen.some(({ kind }) => kind !== 'leave'))
    throw new ApiError(422, 'nothingOffered', 'Everything stays as it is in this plan: there is nothing to offer.')
  const content = offerOf({ ...source, ways }, chosen, other, discountBasisPoints)
  const { models } = database()
  const made = await transacted(async (transaction) => {
    const { job, rules } = await lockedJob(jobId, transaction)
    if (await models.quotes.count({ where: { jobId, kind: 'quote', status: 'accepted' }, transaction }))
      throw new ApiError(409, 'soldAlready', 'An offer of this job was signed already. What is otherwise now is a change of it.')
    await models.quotes.update(
      { status: 'replaced', decidedAt: new Date() },
      { where: { jobId, kind: 'quote', status: 'open' }, transaction },
    )
    const row = await putQuote(job, viewer, 'quote', content, rules.money.quoteDays, rules.timezone, transaction)
    await announce(job.companyId, [{ topic: 'sales', branchId: job.branchId }], transaction)
    return row
  })
  hub.wake(viewer.companyId)
  return { id: made.id, number: made.number, link: linkOf(made) }
}

export async function quoteFor(viewer: Viewer, id: string, transaction?: Transaction): Promise<QuoteRow> {
  const row = await database().models.quotes.findOne({ where: { id, companyId: viewer.companyId }, transaction })
  if (!row) throw notFound('This offer')
  await jobFor(viewer, row.jobId)
  return row
}

export async function withdrawQuote(viewer: Viewer, id: string, reason: string): Promise<{ id: string }> {
  const known = await quoteFor(viewer, id)
  const { models } = database()
  await transacted(async (transaction) => {
    await lockedJob(known.jobId, transaction)
    const [changed] = await models.quotes.update(
      { status: 'withdrawn', reason, decidedAt: new Date() },
      { where: { id, status: 'open' }, transaction },
    )
    if (!changed) throw new ApiError(409, 'notOpen', 'This offer is not open any more.')
    await announce(viewer.companyId, [{ topic: 'sales', branchId: known.branchId }], transaction)
  })
  hub.wake(viewer.companyId)
  return { id }
}

/** Nothing of it is stored where another transaction stood in the way; then once more. */

const noOffer = () => new ApiError(404, 'noOffer', 'This link leads to no offer. Ask the company for the newest one.')
async function offerRow(token: string): Promise<QuoteRow> {
  const row = await database().models.quotes.findOne({ where: { tokenHash: hashOf(token), kind: 'quote' } })
  // What was replaced or withdrawn shows nobody its prices any more.
  if (!row || row.status === 'replaced' || row.status === 'withdrawn') throw noOffer()
  await needHere(row.companyId, 'customer')
  return row
}
const isExpired = (row: Pick<QuoteRow, 'validUntil' | 'status'>, zone: string, now = new Date()) =>
  row.status === 'open' && DateTime.fromJSDate(now, { zone }).toISODate()! > String(row.validUntil)

/** What an offer belongs to: for whoever reads it. */
export async function around(row: QuoteRow) {
  const { models } = database()
  const [company, branch, job] = await Promise.all([
    models.companies.findByPk(row.companyId),
    models.branches.findByPk(row.branchId),
    models.jobs.findByPk(row.jobId),
  ])
  const [site, customer] = await Promise.all([models.sites.findByPk(job!.siteId), models.customers.findByPk(job!.customerId)])
  return { company: company!, branch: branch!, site: site!, customer: customer! }
}

export async function readOffer(token: string, now = new Date()): Promise<Offer> {
  const row = await offerRow(token)
  const { company, branch, site, customer } = await around(row)
  return {
    company: company.name,
    branch: branch.name,
    home: site.name,
    customer: customer.name,
    number: row.number,
    kind: row.kind,
    status: row.status,
    expired: isExpired(row, branch.timezone, now),
    validUntil: String(row.validUntil),
    signer: row.signer,
    decidedAt: row.decidedAt?.toISOString() ?? null,
    locale: regionOf({ ...branch, settings: rulesOf(branch) }).locale,
    schemeId: branch.schemeId,
    content: contentOf(row),
    ticks: ticksOf(row),
  }
}

/** Is what somebody ticked part of the offer, and is anything left to do? */
function checkTicks(content: QuoteContent, ticks: Ticks, kind: QuoteRow['kind']): void {
  const stages = new Set(content.stages.map(({ id }) => id))
  const options = new Set(content.options.map(({ id }) => id))
  if (ticks.stages.some((id) => !stages.has(id)) || ticks.options.some((id) => !options.has(id)))
    throw new ApiError(422, 'notOffered', 'Something that was ticked is not part of this offer.')
  if (kind === 'quote' && !takenLines(content, ticks).some((line) => line.kind !== 'leave'))
    throw new ApiError(422, 'nothingTaken', 'Nothing is left to do with these ticks. Tick a room, or decline the offer.')
}

/** The same ticks in one order: a repeated signature is the same one. */
const sorted = (ticks: Ticks): Ticks => ({ stages: [...new Set(ticks.stages)].sort(), options: [...new Set(ticks.options)].sort() })

/** What is agreed for a job now, by the newest of what was signed or noted; or what was agreed before a row of it. */
export async function agreedContent(jobId: string, transaction?: Transaction, before?: QuoteRow): Promise<QuoteContent | null> {
  const row = await database().models.quotes.findOne({
    where: {
      jobId,
      status: 'accepted',
      ...(before ? { id: { [Op.ne]: before.id } } : {}),
      ...(before?.decidedAt ? { decidedAt: { [Op.lte]: before.decidedAt } } : {}),
    },
    order: [
      ['decidedAt', 'DESC'],
      ['id', 'DESC'],
    ],
    transaction,
    raw: true,
  })
  return row ? settled(contentOf(row), ticksOf(row)!) : null
}

/** What a row comes to: an offer as it is ticked, or what a change adds to what was agreed before it. */
export async function pricedRow(row: QuoteRow): Promise<Pick<QuotePrice, 'taken' | 'lines' | 'sum' | 'depositCents'>> {
  const content = contentOf(row)
  if (row.kind === 'quote') return priceOf(content, ticksOf(row) ?? allTicked(content))
  const change = priceChange((await agreedContent(row.jobId, undefined, row)) ?? { ...content, lines: [] }, content)
  return { taken: change.added, lines: change.lines, sum: sumDifference(change.after.sum, change.before.sum), depositCents: 0 }
}

export interface Signed {
  status: QuoteRow['status']
  number: string
  totalCents: number
}
interface Signature {
  ticks: Ticks
  totalCents: number
  signer: string
  /** Null: a note, under what needs no signature. */
  strokes: [number, number][][] | null
}
/** What follows from a row that is signed: its sum, and what the record of the job takes over. */
function saleOf(row: QuoteRow, ticks: Ticks, agreed: QuoteContent | null) {
  const content = contentOf(row)
  const solution = ({ pointIds, kind, what, devices, minutes }: QuoteLine) => ({ pointIds, kind, what, devices, minutes })
  if (row.kind === 'quote') {
    const price = priceOf(content, ticks)
    return {
      totalCents: price.sum.totalCents,
      solutions: price.taken.map(solution),
      parts: price.parts.map(({ articleId, name, quantity }) => ({ articleId, name, quantity })),
    }
  }
  const change = priceChange(agreed!, content)
  return { totalCents: change.totalCents, solutions: change.added.map(solution), parts: change.parts }
}
/**
 * Takes a signature under an offer or a change: its row, the record of the job and what is kept back for it change together or
 * not at all. The same signature again gives the same answer.
 */
export async function signQuote(rowId: string, given: Signature, now = new Date()): Promise<Signed> {
  const { models } = database()
  const ticks = sorted(given.ticks)
  if (given.strokes && !isSignature(given.strokes))
    throw new ApiError(422, 'noSignature', 'That is not a signature: sign with the whole name.')
  const known = (await models.quotes.findByPk(rowId))!
  const { signed, written } = await transacted(async (transaction) => {
    const { job, branch, rules } = await lockedJob(known.jobId, transaction)
    const row = (await models.quotes.findByPk(rowId, { transaction, lock: transaction.LOCK.UPDATE }))!
    if (row.status === 'accepted' && row.ticks === JSON.stringify(ticks) && row.signer === given.signer)
      return { signed: { status: row.status, number: row.number, totalCents: row.totalCents! }, written: [] }
    if (row.status !== 'open')
      throw new ApiError(409, 'notOpen', row.status === 'accepted' ? 'This offer is signed already.' : 'This offer is not open any more.')
    if (isExpired(row, branch.timezone, now)) throw new ApiError(409, 'expired', 'This offer has expired. Ask for a new one.')
    const content = contentOf(row)
    checkTicks(content, ticks, row.kind)
    const sale = saleOf(row, ticks, row.kind === 'change' ? await agreedContent(job.id, transaction) : null)
    if (sale.totalCents !== given.totalCents)
      throw new ApiError(409, 'sumDiffers', 'The sum is another than the one that was shown. Nothing was signed; look at it again.', {
        totalCents: sale.totalCents,
      })
    await row.update(
      {
        status: 'accepted',
        ticks: JSON.stringify(ticks),
        totalCents: sale.totalCents,
        signer: given.signer,
        strokes: given.strokes ? JSON.stringify(given.strokes) : null,
        decidedAt: now,
      },
      { transaction },
    )
    const author = await models.people.findByPk(row.madeBy, { transaction })
    const command = {
      type: 'sellPlan',
      saleId: row.id,
      kind: row.kind,
      number: row.number,
      signer: given.signer,
      currency: content.currency,
      ...sale,
    }
    const envelope = byProgram('job', job.id, command, now)
    const result = await writeCommand(
      { envelope, command: parseCommand(envelope), viewer: await viewerOf(author!), now, row: job, settings: rules },
      transaction,
    )
    if (result.outcome.status === 'refused') throw new ApiError(409, 'notSold', result.outcome.refusal.reasons.join(' '))
    await announce(job.companyId, [{ topic: 'sales', branchId: job.branchId }], transaction)
    return { signed: { status: 'accepted' as const, number: row.number, totalCents: sale.totalCents }, written: [result] }
  })
  publish(known.companyId, written)
  hub.wake(known.companyId)
  return signed
}

export const acceptOffer = async (token: string, given: BodyOf<typeof sales.acceptOffer>): Promise<Signed> =>
  signQuote((await offerRow(token)).id, given)

export async function declineOffer(token: string, reason: string): Promise<{ status: QuoteRow['status'] }> {
  const row = await offerRow(token)
  const { models } = database()
  const status = await transacted(async (transaction) => {
    await lockedJob(row.jobId, transaction)
    const [changed] = await models.quotes.update(
      { status: 'declined', reason, decidedAt: new Date() },
      { where: { id: row.id, status: 'open' }, transaction },
    )
    if (!changed && row.status !== 'declined') throw new ApiError(409, 'notOpen', 'This offer is not open any more.')
    await announce(row.companyId, [{ topic: 'sales', branchId: row.branchId }], transaction)
    return 'declined' as const
  })
  hub.wake(row.companyId)
  return { status }
}
export const offerId = async (token: string): Promise<string> => (await offerRow(token)).id
