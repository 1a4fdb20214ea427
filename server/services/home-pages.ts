import { DateTime } from 'luxon'
import type { Content } from 'pdfmake/interfaces'
import { guestCard } from '../../core/handover/guest-card'
import { guestCardSheets } from '../../core/handover/guest-card-drawing'
import { codesNotHere, homeHtml, type HomeHead } from '../../core/handover/home-html'
import { homeSections, type HomeSection } from '../../core/handover/home-page'
import { currentUnits } from '../../core/job'
import { papers } from '../../core/names/labels'
import type { AnswerOf, BodyOf, HomeCode, HomePage, homes, KeptHomePage, MessageLine } from '../../core/protocol'
import { inRegion, inTrade, momentOf } from '../../core/units'
import { database, transacted, type HomePageRow, type JobRow } from '../database'
import { hub } from '../realtime/hub'
import { jobFor, peopleNames, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { needHere } from './companies'
import { ApiError, notFound } from './errors'
import { idIn, linkKey, opens } from './links'
import { lockedJob } from './locked-job'
import { deliverSoon, linesOf, putMessage, recipientOf } from './messages'
import { drawingPdf, heading, makePdf, soft, table, type Paper } from './pdf'
import { homeOfJob } from './schedules'
import { hashPassword, logSecretRead, passwordMatches, unseal } from './secrets'
import { readState } from './streams'
import { countTry, forgetTries } from './throttle'

const linkOf = ({ jobId, epoch }: HomePageRow) => `/home/${linkKey('home', jobId, epoch)}`
async function keptOf(row: HomePageRow): Promise<KeptHomePage> {
  const names = await peopleNames(row.companyId)
  return {
    link: linkOf(row),
    until: row.until.toISOString(),
    hasPin: row.pinHash !== null,
    madeBy: names.get(row.madeBy) ?? '',
    madeAt: row.madeAt.toISOString(),
    openedAt: row.openedAt?.toISOString() ?? null,
    codesReadAt: row.codesReadAt?.toISOString() ?? null,
    codesRead: row.codesRead,
  }
}
export async function readHomeLink(viewer: Viewer, jobId: string, now = new Date()): Promise<AnswerOf<typeof homes.readHomeLink>> {
  const job = await jobFor(viewer, jobId)
  const { models } = database()
  const [row, customer, company, branch, rows] = await Promise.all([
    models.homePages.findByPk(job.id, { raw: true }),
    models.customers.findByPk(job.customerId, { raw: true }),
    models.companies.findByPk(job.companyId, { raw: true }),
    models.branches.findByPk(job.branchId),
    models.messages.findAll({ where: { jobId: job.id, purpose: 'home' }, order: [['madeAt', 'DESC']], limit: 5, raw: true }),
  ])
  return {
    page: row && row.until > now ? await keptOf(row) : null,
    to: { customer: customer!.name, phone: customer!.phone, email: customer!.email },
    company: company!.name,
    telephone: rulesOf(branch!).day.telephone,
    sent: await linesOf(rows, job.companyId),
  }
}

/** A new link, in place of the one before. The PIN is the household’s: it is kept as a password is, and read by nobody. */
export async function makeHomeLink(viewer: Viewer, jobId: string, body: BodyOf<typeof homes.makeHomeLink>, now = new Date()) {
  const job = await jobFor(viewer, jobId)
  const pinHash = body.pin === null ? null : await hashPassword(body.pin)
  const until = DateTime.fromJSDate(now).plus({ months: body.months }).toJSDate()
  const row = await transacted(async (transaction) => {
    await lockedJob(job.id, transaction)
    const { homePages } = database().models
    const before = await homePages.findByPk(job.id, { transaction, raw: true })
    if (before?.requestId === body.id) return before
    const fresh = {
      ...{ jobId: job.id, companyId: job.companyId, requestId: body.id, epoch: (before?.epoch ?? 0) + 1, until, pinHash },
      ...{ madeBy: viewer.personId, madeAt: now, openedAt: null, codesReadAt: null, codesRead: 0 },
    }
    await homePages.upsert(fresh, { transaction })
    return fresh
  })
  // Whoever chose the PIN can read the codes by it.
  if (pinHash) await logSecretRead(viewer, 'homePage', job.id)
  await forgetTries('homePin', job.id)
  return { page: await keptOf(row) }
}
/** What could be a PIN in a text, also where it is written in groups; the first few. */
const numbersIn = (text: string): string[] =>
  [...new Set([text, text.replace(/(?<=\d)[\s.–-]+(?=\d)/g, '')].flatMap((one) => one.match(/(?<!\d)\d{6,12}(?!\d)/g) ?? []))].slice(0, 8)

/** Sends the household its link by the company’s service. */
export async function sendHomeLink(
  viewer: Viewer,
  jobId: string,
  { id, channel, body }: BodyOf<typeof homes.sendHomeLink>,
  now = new Date(),
): Promise<MessageLine> {
  const job = await jobFor(viewer, jobId)
  const { models } = database()
  const page = await models.homePages.findByPk(job.id, { raw: true })
  if (!page || page.until <= now) throw new ApiError(409, 'noHome', 'There is no page of this home to send. Make it first.')
  if (body.includes('/home/') && !body.includes(linkOf(page)))
    throw new ApiError(
      409,
      'linkChanged',
      'There is a newer link to this page; the one in the message opens nothing. Take it from here again.',
    )
  // A PIN beside its link protects nothing from whoever reads the message.
  if (page.pinHash)
    for (const digits of numbersIn(body))
      if (await passwordMatches(digits, page.pinHash))
        throw new ApiError(422, 'pinInside', 'Their PIN stands in the message. They chose it and know it: take it out.')
  const row = await transacted(async (transaction) => {
    const { job: locked } = await lockedJob(job.id, transaction)
    const known = await models.messages.findByPk(id, { transaction, raw: true })
    if (known) {
      if (known.jobId !== job.id || known.purpose !== 'home') throw new ApiError(409, 'idInUse', 'Another message bears this id.')
      return known
    }
    const to = await recipientOf(locked, channel, transaction)
    return putMessage({ viewer, job: locked, now, to, letter: { id, visitId: null, purpose: 'home', channel, body } }, transaction)
  })
  hub.wake(viewer.companyId)
  deliverSoon()
  return (await linesOf([row], job.companyId))[0]!
}
export async function endHomeLink(viewer: Viewer, jobId: string, now = new Date()): Promise<{ ok: true }> {
  const job = await jobFor(viewer, jobId)
  await database().models.homePages.update({ until: now, pinHash: null }, { where: { jobId: job.id } })
  return { ok: true }
}

/** The home that a link opens. */
async function homeBehind(token: string, now: Date): Promise<{ row: HomePageRow; job: JobRow }> {
  const id = idIn(token)
  const row = id ? await database().models.homePages.findByPk(id, { raw: true }) : null
  if (!row || !opens('home', token, row.jobId, row.epoch))
    throw new ApiError(404, 'noHome', 'This link leads to no home. Ask the company for the newest one.')
  if (row.until <= now) throw new ApiError(404, 'linkExpired', 'This page has come to its end. Ask the company for a new one.')
  const job = await database().models.jobs.findByPk(row.jobId)
  if (!job) throw notFound('This home')
  await needHere(job.companyId, 'customer')
  return { row, job }
}
async function keptHome(job: JobRow) {
  const { site, branch, company, schemeId, region, home, telling, jobState, siteState } = await homeOfJob(job)
  const { telephone } = rulesOf(branch).day
  const sections = homeSections(jobState, siteState, { home, telling, locale: region.locale, telephone })
  return {
    ...{ company, telephone, schemeId, region, jobState, siteState },
    home: site.name,
    sections: inRegion(inTrade(sections, schemeId), region.locale),
  }
}
function cardOf({ jobState, siteState, home, company, telephone, schemeId }: Awaited<ReturnType<typeof keptHome>>) {
  const paper = schemeId === 'na120' ? 'letter' : 'a4'
  return { paper, sheets: guestCardSheets(guestCard(jobState, siteState, home), paper, { name: company, telephone }) } as const
}

export async function readHomePage(token: string, now = new Date()): Promise<HomePage> {
  const { row, job } = await homeBehind(token, now)
  const { company, telephone, home, region, schemeId, jobState, sections } = await keptHome(job)
  await database().models.homePages.update({ openedAt: now }, { where: { jobId: job.id, epoch: row.epoch } })
  return {
    ...{ company, telephone, home, schemeId, sections, locale: region.locale, zone: region.zone },
    handedOverAt: jobState.handedOverAt,
    until: row.until.toISOString(),
    hasPin: row.pinHash !== null,
  }
}
export async function homeFile(token: string, as: 'html' | 'pdf' | 'card', now = new Date()): Promise<string | Buffer> {
  const { job } = await homeBehind(token, now)
  const kept = await keptHome(job)
  if (as === 'card') return cardPdf(kept)
  const { company, telephone, home, region, schemeId, jobState, sections } = kept
  const at = jobState.handedOverAt
  const handedOver = at ? `Handed over ${momentOf(at, region)}, signed by ${jobState.signature?.signer}.` : 'Not handed over yet.'
  const head = { company, telephone, home, handedOver, made: momentOf(now.toISOString(), region), locale: region.locale }
  if (as === 'pdf') return homePdf(head, sections, { region, schemeId })
  return homeHtml(head, sections, cardOf(kept).sheets)
}
const homePdf = (head: HomeHead, sections: readonly HomeSection[], where: Pick<Paper, 'region' | 'schemeId'>) =>
  makePdf({
    ...{ ...where, title: head.home, company: head.company, footer: [head.company, head.telephone].filter(Boolean).join(' · ') },
    content: [
      { text: head.home, style: 'title' },
      { text: `${head.handedOver} Written ${head.made}. ${codesNotHere}`, color: soft, margin: [0, 4, 0, 0] },
      ...sections.flatMap(({ title, lines, numbered, table: rows }): Content[] => [
        heading(title),
        ...(lines.length === 1 && !numbered ? [lines[0]!] : lines.length ? [numbered ? { ol: lines } : { ul: lines }] : []),
        ...(rows
          ? [
              table(
                rows.heads,
                rows.rows,
                rows.heads.map((_, column) => (column === 0 ? 'auto' : '*')),
              ),
            ]
          : []),
      ]),
    ],
  })
async function cardPdf(kept: Awaited<ReturnType<typeof keptHome>>): Promise<Buffer> {
  const { paper, sheets } = cardOf(kept)
  return drawingPdf(`For guests: ${kept.home}`, kept.schemeId, sheets, papers[paper][0])
}
export async function guestCardPdf(viewer: Viewer, jobId: string): Promise<{ number: number; bytes: Buffer }> {
  const job = await jobFor(viewer, jobId)
  return { number: job.number, bytes: await cardPdf(await keptHome(job)) }
}

/** The codes, for whoever knows the household’s PIN. */
export async function readHomeCodes(token: string, pin: string, now = new Date()): Promise<{ codes: HomeCode[] }> {
  const { row, job } = await homeBehind(token, now)
  if (row.pinHash === null) throw new ApiError(409, 'noPin', 'No PIN was chosen for this page, so it shows no codes. Ask the company.')
  await countTry('homePin', job.id)
  if (!(await passwordMatches(pin, row.pinHash))) throw new ApiError(403, 'wrongPin', 'The PIN is wrong.')
  await forgetTries('homePin', job.id)
  const [jobState, siteState] = await Promise.all([readState('job', job.id), readState('site', job.siteId)])
  const { models, sequelize } = database()
  await models.homePages.update({ codesReadAt: now, codesRead: sequelize.literal('codes_read + 1') as never }, { where: { jobId: job.id } })
  return {
    codes: currentUnits(jobState).flatMap(({ name, serial, boxId, code }) =>
      code.sealed ? [{ name, serial, where: siteState.boxes[boxId]?.name ?? '', code: unseal(code.sealed) }] : [],
    ),
  }
}
