import { waysOf } from '../../core/plan'
import type { sales, BodyOf } from '../../core/protocol'
import { allTicked, changedContent, changeObjection, needsNoteOnly, priceChange, type QuoteContent } from '../../core/quote'
import { database, transacted } from '../database'
import { hub } from '../realtime/hub'
import { isOffice, jobFor, type Viewer } from './access'
import { crewOf } from './decision-context'
import { ApiError } from './errors'
import { announce } from './feed'
import { planSource } from './plan-source'
import { lockedJob } from './locked-job'
import { agreedContent, contentOf, putQuote, quoteFor, resolve, signQuote, type Signed } from './quotes'

export async function readAgreed(viewer: Viewer, jobId: string): Promise<{ agreed: QuoteContent | null }> {
  const job = await jobFor(viewer, jobId)
  return { agreed: await agreedContent(job.id) }
}

/** Whoever is on a visit of the job, and the office. */
async function needCrew(viewer: Viewer, siteId: string, jobId: string): Promise<void> {
  if (isOffice(viewer)) return
  const onCrew = await transacted((transaction) => crewOf([viewer], [siteId], transaction))
  if (!onCrew(viewer, { jobId }))
    throw new ApiError(403, 'notOnCrew', 'You are not on a visit of this job. Ask the dispatcher to put you on it.')
}

/** Puts a change down; what needs a note only is settled by it. */
export async function makeChange(
  viewer: Viewer,
  jobId: string,
  { solutions: ids, reason }: BodyOf<typeof sales.makeChange>,
): Promise<Signed & { id: string }> {
  const job = await jobFor(viewer, jobId)
  await needCrew(viewer, job.siteId, jobId)
  const source = await planSource(viewer, jobId)
  const ways = waysOf(source)
  const solutions = resolve(ways.problem.solutions, ids)
  const { models } = database()
  const { row, change, noteOnly } = await transacted(async (transaction) => {
    const locked = await lockedJob(jobId, transaction)
    const agreed = await agreedContent(jobId, transaction)
    if (!agreed) throw new ApiError(409, 'nothingSold', 'Nothing was agreed for this job yet that could be changed.')
    const after = changedContent({ ...source, ways }, agreed, solutions)
    const against = changeObjection(after, agreed)
    if (against)
      throw new ApiError(
        422,
        'changeImpossible',
        against === 'twice'
          ? 'Two devices would want one gang.'
          : 'A point that was solved together with this one would be left over: choose what becomes of it too.',
      )
    const change = priceChange(agreed, after)
    if (!change.added.length) throw new ApiError(422, 'noChange', 'That is what is agreed already.')
    await models.quotes.update(
      { status: 'replaced', decidedAt: new Date() },
      { where: { jobId, kind: 'change', status: 'open' }, transaction },
    )
    const row = await putQuote(locked.job, viewer, 'change', after, locked.rules.money.quoteDays, locked.rules.timezone, transaction)
    await models.quotes.update({ reason, totalCents: change.totalCents }, { where: { id: row.id }, transaction })
    await announce(locked.job.companyId, [{ topic: 'sales', branchId: locked.job.branchId }], transaction)
    return { row, change, noteOnly: needsNoteOnly(change, locked.rules.money.noteOnlyMinutes) }
  })
  hub.wake(viewer.companyId)
  const { id, number } = row
  if (!noteOnly) return { id, number, status: 'open', totalCents: change.totalCents }
  const ticks = allTicked(contentOf(row))
  return { id, ...(await signQuote(id, { ticks, totalCents: change.totalCents, signer: `${viewer.name}, by a note`, strokes: null })) }
}

export async function signChange(viewer: Viewer, id: string, given: BodyOf<typeof sales.signChange>): Promise<Signed & { id: string }> {
  const row = await quoteFor(viewer, id)
  const job = await jobFor(viewer, row.jobId)
  await needCrew(viewer, job.siteId, job.id)
  if (row.kind !== 'change') throw new ApiError(409, 'notAChange', 'An offer is signed on the customer’s page.')
  return { id, ...(await signQuote(id, { ...given, ticks: allTicked(contentOf(row)) })) }
}
