import { QueryTypes, type Transaction } from 'sequelize'
import { v5 as uuidFrom } from 'uuid'
import { letterSubjects, preparationsFor, type MessagePurpose } from '../../core/dispatch'
import type { Visit } from '../../core/job'
import type { BodyOf, MessageLine, promises } from '../../core/protocol'
import { inTrade } from '../../core/units'
import { database, transacted, type JobRow, type MessageRow } from '../database'
import { hub } from '../realtime/hub'
import { messages as service } from '../stand-ins/messages'
import { isOffice, peopleNames, seesBranch, type Viewer } from './access'
import { byProgram } from './asked'
import { rulesOf } from './branch-rules'
import { ApiError, forbidden, notFound } from './errors'
import { announce } from './feed'
import { linkKey } from './links'
import { lockedJob } from './locked-job'
import { pageOf, putOffers } from './visit-pages'
import { firstNamesOn, peopleOn, visitFor } from './visits'
import { parseCommand, publish, writeCommand, type Written } from './write-command'

/** The list shows so many. */
const mostShown = 200
/** Tries while the service is not to be reached, one each quarter of a minute. */
const mostTries = 200

export const visitLink = (visitId: string) => `/visit/${linkKey('visit', visitId)}`

export async function linesOf(rows: MessageRow[], companyId: string): Promise<MessageLine[]> {
  const { models } = database()
  const [names, jobs] = await Promise.all([
    peopleNames(companyId),
    models.jobs.findAll({ where: { id: [...new Set(rows.map(({ jobId }) => jobId))] }, include: ['site'] }),
  ])
  const sites = new Map(jobs.map((job) => [job.id, (job.get('site') as { name: string }).name]))
  return rows.map(
    ({ id, jobId, visitId, purpose, channel, customer, recipient, subject, body, madeBy, madeAt, state, sentAt, answer }) => ({
      ...{ id, jobId, visitId, purpose, channel, customer, recipient, subject, body, state, answer },
      siteName: sites.get(jobId) ?? '',
      madeBy: names.get(madeBy) ?? '',
      madeAt: madeAt.toISOString(),
      sentAt: sentAt?.toISOString() ?? null,
    }),
  )
}

export async function readContact(viewer: Viewer, visitId: string) {
  const visit = await visitFor(viewer, visitId)
  const { models } = database()
  const [job, branch, page, rows, crew] = await Promise.all([
    models.jobs.findByPk(visit.jobId, { raw: true }),
    models.branches.findByPk(visit.branchId),
    pageOf(visitId),
    models.messages.findAll({ where: { visitId }, order: [['madeAt', 'DESC']], raw: true }),
    firstNamesOn(visitId),
  ])
  const [customer, company] = await Promise.all([
    models.customers.findByPk(job!.customerId, { raw: true }),
    models.companies.findByPk(visit.companyId, { raw: true }),
  ])
  const kind = visit.kind as Visit['kind']
  return {
    customer: customer!.name,
    phone: customer!.phone,
    email: customer!.email,
    company: company!.name,
    telephone: rulesOf(branch!).day.telephone,
    crew,
    kind,
    windowFrom: visit.windowFrom.toISOString(),
    windowTo: visit.windowTo.toISOString(),
    link: visitLink(visitId),
    prepared: preparationsFor(kind).map(({ id, what }) => ({ id, what: inTrade(what, branch!.schemeId), at: page.ticks[id] ?? null })),
    offered: page.offers.length,
    chosenAt: page.chosenAt?.toISOString() ?? null,
    messages: await linesOf(rows, viewer.companyId),
  }
}

export async function changeContact(viewer: Viewer, visitId: string, contact: { phone: string; email: string }): Promise<{ ok: true }> {
  const visit = await visitFor(viewer, visitId)
  await transacted(async (transaction) => {
    const { job } = await lockedJob(visit.jobId, transaction)
    await database().models.customers.update(contact, { where: { id: job.customerId, companyId: viewer.companyId }, transaction })
    await announce(visit.companyId, [{ topic: 'jobs', branchId: visit.branchId }], transaction)
  })
  hub.wake(viewer.companyId)
  return { ok: true }
}

export async function listMessages(
  viewer: Viewer,
  branchId: string | undefined,
  state?: MessageRow['state'],
): Promise<{ messages: MessageLine[] }> {
  const rows = await database().models.messages.findAll({
    where: { companyId: viewer.companyId, ...(branchId ? { branchId } : {}), ...(state ? { state } : {}) },
    order: [
      ['madeAt', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: mostShown,
    raw: true,
  })
  return { messages: await linesOf(rows, viewer.companyId) }
}

/** Writes to the customer of a visit; a new window is promised in the same transaction, or nothing is sent. */
export async function sendMessage(
  viewer: Viewer,
  visitId: string,
  { id, purpose, channel, body, window, offers }: BodyOf<typeof promises.sendMessage>,
  now = new Date(),
): Promise<MessageLine> {
  const visit = await visitFor(viewer, visitId)
  const { models } = database()
  if (!isOffice(viewer)) {
    if (!(await peopleOn(visitId)).includes(viewer.personId))
      throw forbidden('You are not on this visit. Its crew or the office writes to the customer.')
    if (purpose === 'windows' || purpose === 'booked') throw forbidden('The office books, and offers other times.')
  }
  if (offers.length && !isOffice(viewer)) throw forbidden('The office books, and offers other times.')
  if (visit.status === 'cancelled') throw new ApiError(409, 'visitCancelled', 'This visit is cancelled.')
  const { row, written } = await transacted(async (transaction) => {
    const { job, rules } = await lockedJob(visit.jobId, transaction)
    const known = await models.messages.findByPk(id, { transaction, raw: true })
    if (known) {
      if (known.visitId !== visitId || known.companyId !== viewer.companyId)
        throw new ApiError(409, 'idInUse', 'Another message bears this id.')
      return { row: known, written: [] as Written[] }
    }
    const to = await recipientOf(job, channel, transaction)
    const written: Written[] = []
    if (window) {
      const command = { type: 'promiseAnew', visitId, told: 'message', ...window }
      const envelope = byProgram('job', job.id, command, now, { id: uuidFrom(visitId, id) })
      const result = await writeCommand({ envelope, command: parseCommand(envelope), viewer, now, row: job, settings: rules }, transaction)
      if (result.outcome.status === 'refused')
        throw new ApiError(409, result.outcome.refusal.code, result.outcome.refusal.reasons.join(' '))
      written.push(result)
    }
    if (offers.length) await putOffers(visit, offers, viewer, now, transaction)
    return { row: await putMessage({ viewer, job, now, to, letter: { id, visitId, purpose, channel, body } }, transaction), written }
  })
  publish(viewer.companyId, written)
  hub.wake(viewer.companyId)
  deliverSoon()
  return (await linesOf([row], viewer.companyId))[0]!
}

/** @throws ApiError 409 where nobody knows how to reach the customer that way */
export async function recipientOf(
  job: JobRow,
  channel: 'sms' | 'mail',
  transaction: Transaction,
): Promise<{ customer: string; recipient: string }> {
  const { name, phone, email } = (await database().models.customers.findByPk(job.customerId, { transaction, raw: true }))!
  const recipient = channel === 'sms' ? phone : email
  if (!recipient) throw new ApiError(409, 'noAddress', `No ${channel === 'sms' ? 'telephone number' : 'mailbox'} of ${name} is on record.`)
  return { customer: name, recipient }
}
/** Lays a letter where it is sent from: it waits there until the service has it. */
export async function putMessage(
  { viewer, job, now, to, letter }: { viewer: Viewer; job: JobRow; now: Date; to: { customer: string; recipient: string }; letter: Letter },
  transaction: Transaction,
): Promise<MessageRow> {
  const made = await database().models.messages.create(
    {
      ...{ ...letter, ...to, companyId: job.companyId, branchId: job.branchId, jobId: job.id },
      subject: letterSubjects[letter.purpose],
      ...{ madeBy: viewer.personId, madeAt: now, state: 'waiting', tries: 0, sentAt: null, answer: '' },
    },
    { transaction },
  )
  await announce(job.companyId, [{ topic: 'messages', branchId: job.branchId }], transaction)
  return made.get({ plain: true })
}
type Letter = Pick<MessageRow, 'id' | 'visitId' | 'channel' | 'body'> & { purpose: MessagePurpose }

export async function retryMessage(viewer: Viewer, id: string, recipient: string): Promise<MessageLine> {
  const { models } = database()
  const row = await transacted(async (transaction) => {
    const known = await models.messages.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
    if (!known || !seesBranch(viewer, known)) throw notFound('This message')
    if (known.state !== 'failed')
      throw new ApiError(409, 'notFailed', known.state === 'sent' ? 'It was sent already.' : 'It is being sent.')
    await known.update({ state: 'waiting', tries: 0, recipient, answer: '' }, { transaction })
    await announce(known.companyId, [{ topic: 'messages', branchId: known.branchId }], transaction)
    return known.get({ plain: true })
  })
  hub.wake(viewer.companyId)
  deliverSoon()
  return (await linesOf([row], viewer.companyId))[0]!
}

/**
 * Sends what waits, one after the other. Several servers may try at once: each takes rows that no other one holds. What was handed
 * over just before a server stopped is handed over again under the same id, which the service takes for the same letter.
 */
export async function deliver(send = service.send, now = () => new Date()): Promise<number> {
  const { models, sequelize } = database()
  let sent = 0
  const seen: string[] = ['']
  for (;;) {
    const row = await transacted(async (transaction) => {
      const [next] = await sequelize.query<{ id: string }>(
        "SELECT id FROM messages WHERE state = 'waiting' AND id NOT IN (?) ORDER BY made_at LIMIT 1 FOR UPDATE SKIP LOCKED",
        { replacements: [seen], type: QueryTypes.SELECT, transaction },
      )
      if (!next) return null
      // Also when this is begun anew: it goes with the next round then.
      seen.push(next.id)
      const message = (await models.messages.findByPk(next.id, { transaction }))!
      const { id, channel, recipient, subject, body, tries } = message
      const said = await send({ id, channel, to: recipient, subject, body })
      if (said.is === 'sent')
        await message.update({ state: 'sent', sentAt: now(), answer: said.reference, tries: tries + 1 }, { transaction })
      else
        await message.update(
          {
            state: said.is === 'refused' || tries + 1 >= mostTries ? 'failed' : 'waiting',
            answer: said.reason.slice(0, 200),
            tries: tries + 1,
          },
          { transaction },
        )
      sent += said.is === 'sent' ? 1 : 0
      await announce(message.companyId, [{ topic: 'messages', branchId: message.branchId }], transaction)
      return message
    })
    if (!row) return sent
    hub.wake(row.companyId)
  }
}

export const messagesWaiting = (): Promise<number> => database().models.messages.count({ where: { state: 'waiting' } })

let sending: Promise<unknown> = Promise.resolve()
/** Sends what waits without keeping anybody waiting for it. */
export function deliverSoon(): void {
  sending = sending.then(() => deliver()).catch((error: unknown) => console.error('Messages could not be sent:', error))
}
/** Everything that was begun has been tried. */
export const deliveries = () => sending
