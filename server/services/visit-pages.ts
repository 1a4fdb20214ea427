import type { Transaction } from 'sequelize'
import { z } from 'zod'
import { beginsLater, customerMayMove, expectedOff, preparationsFor, prepareIds, type PrepareId } from '../../core/dispatch'
import type { Visit } from '../../core/job'
import type { BodyOf, PlannedVisit, promises, VisitPage } from '../../core/protocol'
import { plannedVisit } from '../../core/protocol/dispatch'
import { inTrade, regionOf, type SchemeId } from '../../core/units'
import { database, transacted, type VisitPageRow, type VisitRow } from '../database'
import { hub } from '../realtime/hub'
import { acceptPlan } from './accept-plan'
import { viewerOf, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { needHere } from './companies'
import { ApiError } from './errors'
import { announce } from './feed'
import { idIn, opens } from './links'
import { readState } from './streams'
import { firstNamesOn } from './visits'

/** A link opens its page for so long after the visit, days. */
const linkDays = 3

const ticksSchema = z.partialRecord(z.enum(prepareIds), z.string())
const offersSchema = z.array(z.object({ id: z.uuid(), visits: z.array(plannedVisit) }))
interface Page {
  ticks: Partial<Record<PrepareId, string>>
  offers: { id: string; visits: PlannedVisit[] }[]
  offeredBy: string | null
  chosenAt: Date | null
}
export async function pageOf(visitId: string, transaction?: Transaction): Promise<Page> {
  const row = await database().models.visitPages.findByPk(visitId, { transaction, raw: true })
  if (!row) return { ticks: {}, offers: [], offeredBy: null, chosenAt: null }
  const { offeredBy, chosenAt } = row
  return { ticks: ticksSchema.parse(JSON.parse(row.ticks)), offers: offersSchema.parse(JSON.parse(row.offers)), offeredBy, chosenAt }
}
/** Only what is given changes: ticks and offers are put down by two sides at the same moment. */
async function putPage(
  visit: VisitRow,
  change: Partial<Omit<VisitPageRow, 'visitId' | 'companyId'>>,
  transaction: Transaction,
): Promise<void> {
  const { models, sequelize } = database()
  await sequelize.query("INSERT IGNORE INTO visit_pages (visit_id, company_id, ticks, offers) VALUES (?, ?, '{}', '[]')", {
    replacements: [visit.id, visit.companyId],
    transaction,
  })
  await models.visitPages.update(change, { where: { visitId: visit.id }, transaction })
}

/** Times that are offered on the customer’s page of a visit, in place of those before. */
export async function putOffers(
  visit: VisitRow,
  offers: BodyOf<typeof promises.sendMessage>['offers'],
  viewer: Viewer,
  now: Date,
  transaction: Transaction,
): Promise<void> {
  if (!mayMove(visit, now))
    throw new ApiError(409, 'tooLate', 'It begins within the hour, or has begun: they could not choose on their page any more. Telephone.')
  for (const { visits } of offers) {
    const [own] = visits
    if (own!.visitId !== visit.id || own!.jobId !== visit.jobId || visits.some(({ makes, was }) => makes || !was))
      throw new ApiError(422, 'offerOdd', 'An offered time moves this visit, and makes none.')
  }
  const offered = { offers: JSON.stringify(offers), offeredBy: viewer.personId, offeredAt: now, chosenAt: null }
  await putPage(visit, offered, transaction)
}

async function visitOf(token: string, now: Date): Promise<VisitRow> {
  const id = idIn(token)
  const visit = id && opens('visit', token, id) ? await database().models.visits.findByPk(id, { raw: true }) : null
  if (!visit) throw new ApiError(404, 'noVisit', 'This link leads to no visit. Ask the company for the newest one.')
  if (now.getTime() > visit.endsAt.getTime() + linkDays * 86_400_000)
    throw new ApiError(404, 'linkExpired', 'This visit is over, and its page with it.')
  await needHere(visit.companyId, 'customer')
  return visit
}
const mayMove = ({ status, setOffAt, startsAt }: VisitRow, now: Date) =>
  customerMayMove({ status, setOff: setOffAt !== null, startsAt: startsAt.toISOString() }, now.getTime())
const openOffers = ({ offers }: Page, visit: VisitRow, now: Date) =>
  mayMove(visit, now) ? offers.filter(({ visits }) => beginsLater(visits[0]!.startsAt, now.getTime())) : []

const quarterMs = 15 * 60_000
/** What goes off, to a quarter of an hour: nobody on a page is promised minutes. Once work has begun its crew says it better. */
async function offsOf(visit: VisitRow, schemeId: SchemeId, people: number): Promise<VisitPage['offs']> {
  if (visit.kind !== 'install' || visit.status !== 'planned') return []
  const [job, site] = await Promise.all([readState('job', visit.jobId), readState('site', visit.siteId)])
  const begin = (visit.expectedAt ?? visit.startsAt).getTime()
  return expectedOff(job, site, people).map(({ name, lights, asks, from, to }) => ({
    name: inTrade(name, schemeId),
    lights,
    asksFirst: asks.length > 0,
    from: new Date(Math.round((begin + from * 60_000) / quarterMs) * quarterMs).toISOString(),
    minutes: Math.max(15, Math.ceil((to - from) / 15) * 15),
  }))
}

export async function readVisitPage(token: string, now = new Date()): Promise<VisitPage> {
  const visit = await visitOf(token, now)
  const { models } = database()
  const [branch, company, site, page, crew] = await Promise.all([
    models.branches.findByPk(visit.branchId),
    models.companies.findByPk(visit.companyId, { raw: true }),
    models.sites.findByPk(visit.siteId, { attributes: ['name'], raw: true }),
    pageOf(visit.id),
    firstNamesOn(visit.id),
  ])
  const rules = rulesOf(branch!)
  const { zone, locale } = regionOf({ ...branch!.get({ plain: true }), settings: rules })
  const kind = visit.kind as Visit['kind']
  const status = visit.status as 'planned' | 'onSite' | 'done' | 'cancelled'
  return {
    company: company!.name,
    branch: branch!.name,
    telephone: rules.day.telephone,
    home: site!.name,
    kind,
    status: status === 'planned' && visit.setOffAt ? 'onTheWay' : status,
    crew,
    windowFrom: visit.windowFrom.toISOString(),
    windowTo: visit.windowTo.toISOString(),
    expectedAt: visit.expectedAt?.toISOString() ?? null,
    ...{ zone, locale },
    schemeId: branch!.schemeId,
    prepare: preparationsFor(kind).map((one) => ({ ...inTrade(one, branch!.schemeId), id: one.id, done: Boolean(page.ticks[one.id]) })),
    offers: openOffers(page, visit, now).map(({ id, visits: [own] }) => ({ id, windowFrom: own!.windowFrom, windowTo: own!.windowTo })),
    chosen: page.chosenAt !== null,
    offs: await offsOf(visit, branch!.schemeId, crew.length),
  }
}

export async function tickPrepared(token: string, done: PrepareId[], now = new Date()): Promise<{ ok: true }> {
  const visit = await visitOf(token, now)
  await transacted(async (transaction) => {
    const page = await pageOf(visit.id, transaction)
    const ticks = Object.fromEntries(done.map((id) => [id, page.ticks[id] ?? now.toISOString()]))
    await putPage(visit, { ticks: JSON.stringify(ticks) }, transaction)
    await announce(visit.companyId, [{ topic: 'messages', branchId: visit.branchId }], transaction)
  })
  hub.wake(visit.companyId)
  return { ok: true }
}

/** The customer takes one of the offered times: all of what it needs moves, or nothing. */
export async function chooseTime(token: string, offerId: string, now = new Date()): Promise<{ ok: true }> {
  const visit = await visitOf(token, now)
  const { models } = database()
  const page = await pageOf(visit.id)
  const offer = page.offers.find(({ id }) => id === offerId)
  const gone = () => new ApiError(409, 'timeGone', 'This time is not free any more. Choose another one, or call us.')
  const here = offer?.visits[0]
  // Sent twice, it is the same: it is there already.
  if (here && page.chosenAt && Date.parse(here.startsAt) === visit.startsAt.getTime()) return { ok: true }
  if (!mayMove(visit, now)) throw new ApiError(409, 'tooLate', 'The visit is too near to be moved here. Please call us.')
  if (!offer || !openOffers(page, visit, now).includes(offer)) throw gone()
  const author = page.offeredBy ? await models.people.findByPk(page.offeredBy) : null
  if (!author?.active) throw gone()
  await acceptPlan(await viewerOf(author), { id: offer.id, branchId: visit.branchId, visits: offer.visits }, now, visit.id).catch(
    (error: unknown) => {
      throw error instanceof ApiError && error.status === 409 ? gone() : error
    },
  )
  await transacted(async (transaction) => {
    await putPage(visit, { chosenAt: now }, transaction)
    await announce(visit.companyId, [{ topic: 'messages', branchId: visit.branchId }], transaction)
  })
  hub.wake(visit.companyId)
  return { ok: true }
}
