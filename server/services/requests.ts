import { createHash } from 'node:crypto'
import { Op, type Transaction } from 'sequelize'
import { v7 as uuid } from 'uuid'
import { awayKinds, type Away } from '../../core/dispatch'
import type { BodyOf, RequestLine, requests as contracts } from '../../core/protocol'
import { database, transacted, type RequestRow } from '../database'
import { hub } from '../realtime/hub'
import { acceptPlan } from './accept-plan'
import { branchFor, isOffice, seesBranch, type Viewer } from './access'
import { busyTimes } from './calendar'
import { ApiError, forbidden, notFound } from './errors'
import { announce } from './feed'
import { settingsOf } from './branch-rules'
import { isoTimes, visitFor, visitsOf, visitsWithCrew } from './visits'

const dayMs = 86_400_000
/** What was decided stays on the list for so long after it was, days. */
const shownDays = 30
/** Nobody is away for longer than a year at once: a slip of the date. */
const longestDays = 366

/** Who of a company does not work at some moment between two instants. */
export async function awayBetween(companyId: string, from: Date, to: Date): Promise<Away[]> {
  const rows = await database().models.requests.findAll({
    where: { companyId, kind: [...awayKinds], state: 'approved', startsAt: { [Op.lt]: to }, endsAt: { [Op.gt]: from } },
    order: [['startsAt', 'ASC']],
    raw: true,
  })
  return rows.map(({ personId, startsAt, endsAt }) => ({ personId, from: startsAt.toISOString(), to: endsAt.toISOString() }))
}

async function linesOf(rows: RequestRow[]): Promise<RequestLine[]> {
  const { models } = database()
  const open = rows.filter(({ state }) => state === 'asked' || state === 'approved')
  const from = Math.min(...open.map(({ startsAt }) => startsAt.getTime()))
  const to = Math.max(...open.map(({ endsAt }) => endsAt.getTime()))
  const visits = open.length
    ? await visitsWithCrew({
        id: await visitsOf(open.map(({ personId }) => personId)),
        status: ['planned', 'onSite'],
        startsAt: { [Op.lt]: new Date(to) },
        endsAt: { [Op.gt]: new Date(from) },
      })
    : []
  const jobs = await models.jobs.findAll({ where: { id: rows.flatMap(({ jobId }) => jobId ?? []) }, include: ['site'] })
  const siteOf = (jobId: string | null) => (jobs.find(({ id }) => id === jobId)?.get('site') as { name: string } | undefined)?.name ?? null
  return rows.map(({ id, personId, kind, startsAt, endsAt, visitId, jobId, otherId, note, state, askedAt, answer }) => ({
    ...{ id, personId, kind, visitId, jobId, otherId, note, state, answer },
    siteName: siteOf(jobId),
    startsAt: startsAt.toISOString(),
    endsAt: endsAt.toISOString(),
    askedAt: askedAt.toISOString(),
    booked:
      kind === 'swap' || (state !== 'asked' && state !== 'approved')
        ? []
        : visits
            .filter((one) => one.crew.some((its) => its.personId === personId) && one.startsAt < endsAt && one.endsAt > startsAt)
            .map((one) => ({ siteName: one.site.name, startsAt: one.startsAt.toISOString() })),
  }))
}

export async function listRequests(viewer: Viewer, branchId: string | undefined, now = new Date()): Promise<{ requests: RequestLine[] }> {
  if (branchId) await branchFor(viewer, branchId)
  const rows = await database().models.requests.findAll({
    where: {
      companyId: viewer.companyId,
      endsAt: { [Op.gt]: new Date(now.getTime() - shownDays * dayMs) },
      ...(isOffice(viewer) ? (branchId ? { branchId } : {}) : { personId: viewer.personId }),
    },
    order: [
      ['startsAt', 'ASC'],
      ['id', 'ASC'],
    ],
    limit: 300,
    raw: true,
  })
  return { requests: await linesOf(rows) }
}

const tell = (row: Pick<RequestRow, 'companyId' | 'branchId'>, transaction: Transaction) =>
  announce(
    row.companyId,
    [
      { topic: 'requests', branchId: row.branchId },
      { topic: 'jobs', branchId: row.branchId },
    ],
    transaction,
  )

/** Whose time it is: one’s own, or somebody’s of the branch for the office. */
async function personOf(viewer: Viewer, personId: string) {
  const person = await database().models.people.findByPk(personId, { raw: true })
  if (!person || !person.active || !seesBranch(viewer, person)) throw notFound('This person')
  if (person.id !== viewer.personId && !isOffice(viewer)) throw forbidden('Everybody asks for themselves; the office for anybody.')
  return person
}

export async function askFor(viewer: Viewer, given: BodyOf<typeof contracts.askFor>, now = new Date()): Promise<RequestLine> {
  const { models } = database()
  const swap = given.kind === 'swap' ? await visitFor(viewer, given.visitId) : null
  if (swap && swap.status !== 'planned') throw new ApiError(409, 'visitState', 'Only a visit that is still planned can be handed over.')
  const person = await personOf(viewer, given.kind === 'swap' ? viewer.personId : (given.personId ?? viewer.personId))
  if (swap && !(await models.visitPeople.count({ where: { visitId: swap.id, personId: person.id } })))
    throw forbidden('You are not on this visit.')
  const other = given.kind === 'swap' && given.otherId ? await personForSwap(viewer, given.otherId) : null
  const [startsAt, endsAt] = given.kind === 'swap' ? [swap!.startsAt, swap!.endsAt] : [new Date(given.startsAt), new Date(given.endsAt)]
  if (endsAt <= startsAt) throw new ApiError(422, 'timesOdd', 'It ends before it starts.')
  if (endsAt.getTime() - startsAt.getTime() > longestDays * dayMs)
    throw new ApiError(422, 'timesOdd', 'That is more than a year: look at the dates.')
  if (endsAt < now) throw new ApiError(422, 'timesOdd', 'That time is over.')
  // Nobody asks whether they may be ill; what the office enters, it has approved.
  const approved = given.kind !== 'swap' && (given.kind === 'ill' || (isOffice(viewer) && person.id !== viewer.personId))
  const row = await transacted(async (transaction) => {
    const known = await models.requests.findByPk(given.id, { transaction, raw: true })
    if (known) {
      if (known.personId !== person.id) throw new ApiError(409, 'idInUse', 'Something else bears this id.')
      return known
    }
    const made = await models.requests.create(
      {
        id: given.id,
        companyId: person.companyId,
        branchId: person.branchId,
        personId: person.id,
        kind: given.kind,
        startsAt,
        endsAt,
        visitId: swap?.id ?? null,
        jobId: swap?.jobId ?? null,
        otherId: other?.id ?? null,
        note: given.note,
        state: approved ? 'approved' : 'asked',
        uid: null,
        askedBy: viewer.personId,
        askedAt: now,
        decidedBy: approved ? viewer.personId : null,
        decidedAt: approved ? now : null,
        answer: '',
      },
      { transaction },
    )
    await tell(made, transaction)
    return made.get({ plain: true })
  })
  hub.wake(viewer.companyId)
  return (await linesOf([row]))[0]!
}

async function personForSwap(viewer: Viewer, personId: string) {
  const person = await database().models.people.findByPk(personId, { raw: true })
  if (!person || !person.active || person.companyId !== viewer.companyId) throw notFound('This person')
  return person
}

async function requestFor(viewer: Viewer, id: string): Promise<RequestRow> {
  const row = await database().models.requests.findByPk(id, { raw: true })
  if (!row || !seesBranch(viewer, row) || (!isOffice(viewer) && row.personId !== viewer.personId)) throw notFound('This request')
  return row
}

const decided = 'This was decided, or taken back, meanwhile.'

export async function decideRequest(
  viewer: Viewer,
  id: string,
  { approve, otherId, answer }: BodyOf<typeof contracts.decideRequest>,
  now = new Date(),
): Promise<RequestLine> {
  const known = await requestFor(viewer, id)
  if (!isOffice(viewer)) throw forbidden('The office decides what is asked.')
  const wanted = approve ? 'approved' : 'declined'
  if (known.state === wanted) return (await linesOf([known]))[0]!
  if (known.state !== 'asked') throw new ApiError(409, 'decided', decided)
  const other = known.kind === 'swap' && approve ? (otherId ?? known.otherId) : null
  if (known.kind === 'swap' && approve) {
    if (!other) throw new ApiError(422, 'nobodyTakes', 'Say who takes the visit.')
    await handOver(viewer, known, (await personForSwap(viewer, other)).id, now)
  }
  return settle(id, wanted, (state) => (state === 'asked' ? null : decided), {
    ...(other ? { otherId: other } : {}),
    ...{ answer, decidedBy: viewer.personId, decidedAt: now },
  })
}

/** A request ends in a state, once; `against` says why it does not, by the state it is in. */
async function settle(
  id: string,
  state: RequestRow['state'],
  against: (state: RequestRow['state']) => string | null,
  change: Partial<RequestRow>,
): Promise<RequestLine> {
  const row = await transacted(async (transaction) => {
    const locked = (await database().models.requests.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE }))!
    if (locked.state === state) return locked.get({ plain: true })
    const why = against(locked.state)
    if (why) throw new ApiError(409, 'decided', why)
    await locked.update({ state, ...change }, { transaction })
    await tell(locked, transaction)
    return locked.get({ plain: true })
  })
  hub.wake(row.companyId)
  return (await linesOf([row]))[0]!
}

/** The visit moves to its new person, under all rules of a plan. */
async function handOver(viewer: Viewer, { id, visitId, jobId, personId, branchId }: RequestRow, otherId: string, now: Date): Promise<void> {
  const [visit] = await visitsWithCrew({ id: visitId })
  const people = visit?.crew.map((one) => one.personId) ?? []
  if (!visit || visit.status !== 'planned' || !people.includes(personId))
    throw new ApiError(409, 'visitState', 'The visit has begun, was cancelled, or is somebody else’s by now.')
  const times = isoTimes(visit)
  const plan = {
    id,
    branchId,
    visits: [
      {
        jobId: jobId!,
        visitId: visit.id,
        makes: null,
        was: { startsAt: times.startsAt, personIds: people },
        personIds: [...new Set(people.map((one) => (one === personId ? otherId : one)))],
        ...times,
      },
    ],
  }
  await acceptPlan(viewer, plan, now)
}

export async function withdrawRequest(viewer: Viewer, id: string, now = new Date()): Promise<RequestLine> {
  const known = await requestFor(viewer, id)
  if (known.kind === 'swap' && known.state === 'approved') throw new ApiError(409, 'decided', 'The visit is somebody else’s by now.')
  return settle(id, 'withdrawn', (state) => (state === 'declined' ? 'This was declined already.' : null), {
    decidedBy: viewer.personId,
    decidedAt: now,
  })
}

const digest = (uid: string) => createHash('sha256').update(uid).digest('hex')
/** Reads time off from a calendar; what it was about is nobody’s business here and is not kept. */
export async function importAway(viewer: Viewer, personId: string, text: string, now = new Date()) {
  const person = await personOf(viewer, personId)
  const { timezone } = await settingsOf(person.branchId)
  const times = busyTimes(text, timezone, now)
  const approved = isOffice(viewer) && person.id !== viewer.personId
  const { models } = database()
  const counts = { added: 0, changed: 0, withdrawn: 0, left: 0 }
  await transacted(async (transaction) => {
    Object.assign(counts, { added: 0, changed: 0, withdrawn: 0, left: 0 })
    const rows = await models.requests.findAll({
      where: { personId: person.id, uid: times.map(({ uid }) => digest(uid)) },
      transaction,
      lock: transaction.LOCK.UPDATE,
    })
    for (const { uid, startsAt, endsAt, cancelled } of times) {
      const row = rows.find((one) => one.uid === digest(uid))
      const same = row?.startsAt.getTime() === startsAt.getTime() && row.endsAt.getTime() === endsAt.getTime()
      const decided = approved
        ? { state: 'approved' as const, decidedBy: viewer.personId, decidedAt: now }
        : { state: 'asked' as const, decidedBy: null, decidedAt: null }
      if (cancelled) {
        if (row && row.state !== 'withdrawn' && row.state !== 'declined') {
          await row.update({ state: 'withdrawn', decidedBy: viewer.personId, decidedAt: now }, { transaction })
          counts.withdrawn++
        } else counts.left++
      } else if (row && same) counts.left++
      else if (row) {
        await row.update({ startsAt, endsAt, askedAt: now, ...decided }, { transaction })
        counts.changed++
      } else {
        await models.requests.create(
          {
            ...{ id: uuid(), companyId: person.companyId, branchId: person.branchId, personId: person.id, kind: 'off', startsAt, endsAt },
            ...{
              visitId: null,
              jobId: null,
              otherId: null,
              note: 'from a calendar',
              uid: digest(uid),
              askedBy: viewer.personId,
              askedAt: now,
            },
            ...{ answer: '', ...decided },
          },
          { transaction },
        )
        counts.added++
      }
    }
    if (counts.added + counts.changed + counts.withdrawn) await tell(person, transaction)
  })
  hub.wake(viewer.companyId)
  return counts
}
