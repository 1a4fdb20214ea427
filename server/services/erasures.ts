import { createHash } from 'node:crypto'
import { Op, QueryTypes, type Transaction } from 'sequelize'
import { v7 as uuid } from 'uuid'
import { namesPattern, peopleNamed, withoutNames } from '../../core/erasure/erase-names'
import { withoutPicture, withoutWords } from '../../core/erasure/erase-words'
import { erasedWord } from '../../core/erasure/words'
import type { JobState } from '../../core/job'
import type { AnswerOf, BodyOf, Erasable, erasures as contracts } from '../../core/protocol'
import type { SiteState } from '../../core/site'
import type { StreamEvent, StreamKind } from '../../core/stream'
import type { StateOf } from '../../core/streams'
import { database, transacted, type ErasureRow } from '../database'
import { runTogether, type Statement } from '../database/statements'
import { hub } from '../realtime/hub'
import { leaveLine } from './access-record'
import { jobFor, peopleNames, type Viewer } from './access'
import { ApiError, notFound } from './errors'
import { announce } from './feed'
import { listErasures, listIsKept } from './erasure-list'
import { jobStatements, siteStatements } from './projections'
import { dropStates, eventsOf, foldAnew, isUnderstood, lockStates } from './streams'

/** Statements at once; entries are large. */
const someStatements = 200
/** As many as one looks through; the rest come when these are done. */
const mostListed = 100
const mostPictures = 1_000

/** A customer of hundreds of jobs takes seconds. A choice of ours, no source. */
const longestErasingMs = 600_000

type Locked = Awaited<ReturnType<typeof lockStates>>[number]
interface WrittenOver {
  kind: StreamKind
  place: { companyId: string; branchId: string }
  before: StateOf<StreamKind>
  after: StateOf<StreamKind>
}
/**
 * Writes entries of records over. What was folded of them before is worth nothing from then on: their edition tells every server.
 * @param locked the records, held for the rest of the transaction
 * @param changing made of all of their entries: an entry as it is from now on; the same one where nothing is changed
 * @param closed their customer is erased
 */
async function writeOver(
  locked: Locked[],
  changing: (all: StreamEvent[]) => (event: StreamEvent) => StreamEvent,
  { at, closed }: { at: Date; closed: boolean },
  transaction: Transaction,
): Promise<Map<string, WrittenOver>> {
  const { models } = database()
  const written = new Map<string, WrittenOver>()
  const held: (Locked & { events: StreamEvent[] })[] = []
  for (const one of locked) held.push({ ...one, events: await eventsOf(one.row.id, transaction) })
  const change = changing(held.flatMap(({ events }) => events))
  for (const { row, state, events } of held) {
    const changed = events.map(change)
    const statements: Statement[] = changed.flatMap((event, index) =>
      event === events[index]
        ? []
        : [
            {
              sql: 'UPDATE events SET payload = ?, version = ? WHERE stream_id = ? AND seq = ?',
              values: [JSON.stringify(event.payload), event.version, row.id, event.seq],
            },
          ],
    )
    for (let from = 0; from < statements.length; from += someStatements)
      await runTogether(statements.slice(from, from + someStatements), transaction)
    await models.streams.update(
      {
        ...{ edition: row.edition + 1, snapshot: null, snapshotVersion: null, snapshotSeq: 0 },
        erasedAt: closed ? at : row.erasedAt,
      },
      { where: { id: row.id }, transaction },
    )
    const { kind, companyId, branchId } = row
    written.set(row.id, { kind, place: { companyId, branchId }, before: state, after: foldAnew(kind, row.id, changed) })
  }
  return written
}
/** Rows that follow from the records, from what is left of them. */
async function projectAnew(written: Map<string, WrittenOver>, locked: Locked[], transaction: Transaction): Promise<void> {
  // A home that is not written over stands as it was.
  const sites = new Map(locked.map(({ row, state }) => [row.id, (written.get(row.id)?.after ?? state) as SiteState]))
  for (const { kind, before, after, place } of written.values())
    await runTogether(
      kind === 'site'
        ? siteStatements(before as SiteState, after as SiteState, place)
        : jobStatements(before as JobState, after as JobState, sites.get((after as JobState).siteId)!, place),
      transaction,
    )
}

interface Theirs {
  jobs: { id: string; number: number; branchId: string; siteId: string }[]
  /** Homes that nobody else has had work done in. */
  siteIds: string[]
}
async function theirs(customerId: string, transaction?: Transaction): Promise<Theirs> {
  const { models } = database()
  const attributes = ['id', 'number', 'branchId', 'siteId', 'customerId']
  const [own, homes] = await Promise.all([
    models.jobs.findAll({ where: { customerId }, attributes, order: [['number', 'ASC']], raw: true, transaction }),
    models.sites.findAll({ where: { customerId }, attributes: ['id'], raw: true, transaction }),
  ])
  const siteIds = [...new Set([...own.map(({ siteId }) => siteId), ...homes.map(({ id }) => id)])]
  const others = await models.jobs.findAll({
    where: { siteId: siteIds, customerId: { [Op.ne]: customerId } },
    attributes: ['siteId'],
    raw: true,
    transaction,
  })
  const shared = new Set(others.map(({ siteId }) => siteId))
  return { jobs: own, siteIds: siteIds.filter((id) => !shared.has(id)) }
}

/** Why a customer cannot be erased now: what is going on there would be lost sight of. */
async function inTheWay({ jobs, siteIds }: Theirs, transaction?: Transaction): Promise<string[]> {
  const { models } = database()
  const jobId = jobs.map(({ id }) => id)
  const siteId = [...new Set([...siteIds, ...jobs.map((job) => job.siteId)])]
  const raw = { raw: true, transaction } as const
  const [visits, callbacks, tags, alarms, alone, held, out, open] = await Promise.all([
    models.visits.findAll({ where: { jobId, status: ['planned', 'onSite'] }, ...raw }),
    models.callbacks.findAll({ where: { jobId, status: { [Op.ne]: 'closed' } }, ...raw }),
    models.hangingTags.findAll({ where: { siteId }, ...raw }),
    models.openAlarms.findAll({ where: { siteId }, ...raw }),
    models.soloWatches.findAll({ where: { siteId }, ...raw }),
    models.deviceFabrics.findAll({ where: { jobId, emptiedAt: null }, ...raw }),
    models.devicesOut.findAll({ where: { jobId, stage: { [Op.ne]: 'settled' } }, ...raw }),
    models.quotes.findAll({ where: { jobId, status: 'open' }, ...raw }),
  ])
  const numbers = (rows: { jobId: string }[]) =>
    [...new Set(rows.map((row) => jobs.find(({ id }) => id === row.jobId)!.number))].sort((a, b) => a - b).join(', ')
  return [
    ...tags.map(({ initials, breakerNumber }) => `A tag of ${initials} hangs at ${breakerNumber}: it comes off first.`),
    ...alarms.map(({ what }) => `An alarm is open: ${what}.`),
    ...alone.map(({ name }) => `${name} works there alone and is waited for.`),
    ...(visits.length ? [`A visit is planned or going on (job ${numbers(visits)}): end or cancel it.`] : []),
    ...(callbacks.length ? [`A callback is open (job ${numbers(callbacks)}): close it.`] : []),
    ...(held.length ? [`Our access to their devices is still there (job ${numbers(held)}): hand it over or take it out first.`] : []),
    ...(out.length ? [`A device of theirs is out (job ${numbers(out)}): follow it to its end.`] : []),
    ...(open.length ? [`An offer is open (job ${numbers(open)}): withdraw it.`] : []),
  ]
}

const digest = (text: string) => createHash('sha256').update(text).digest('hex')
/** Rows of their jobs and homes that are no entries of a record. */
async function eraseRows(customerId: string, { jobs, siteIds }: Theirs, at: Date, transaction: Transaction): Promise<void> {
  const { models } = database()
  const jobId = jobs.map(({ id }) => id)
  const of = { where: { jobId }, transaction }
  for (const gone of [models.photos, models.messages, models.homePages, models.linkAsks]) await (gone as typeof models.photos).destroy(of)
  const visits = await models.visits.findAll({ ...of, attributes: ['id'], raw: true })
  await models.visitPages.destroy({ where: { visitId: visits.map(({ id }) => id) }, transaction })
  for (const { id, signer, status } of await models.quotes.findAll({ ...of, raw: true }))
    await models.quotes.update(
      {
        // A link that was given out opens nothing: nobody has what this is the digest of.
        ...{ tokenHash: digest(`${id} ${uuid()}`), tokenSealed: '', strokes: null, reason: '' },
        ...{ signer: signer === null ? null : erasedWord, status: status === 'open' ? 'withdrawn' : status },
      },
      { where: { id }, transaction },
    )
  const places = { where: { id: siteIds }, transaction }
  await models.homeLinks.destroy({ where: { [Op.or]: [{ firstSiteId: siteIds }, { secondSiteId: siteIds }] }, transaction })
  await models.sites.update({ name: erasedWord, address: '', doorCodeSealed: null, longitude: null, latitude: null, erasedAt: at }, places)
  await models.customers.update({ name: erasedWord, phone: '', email: '', erasedAt: at }, { where: { id: customerId }, transaction })
  await models.jobs.update({ title: erasedWord }, { where: { id: jobId }, transaction })
  // Why somebody could not come, or would not.
  await models.requests.update({ note: '', answer: '' }, of)
  await models.secretReads.update({ reason: '' }, { where: { refId: [...jobId, ...siteIds] }, transaction })
  // What was refused was said in sentences, and names may stand in them.
  const streamId = [...jobId, ...siteIds]
  const refused = await models.commands.findAll({
    where: { streamId, outcome: { [Op.like]: '%"status":"refused"%' } },
    raw: true,
    transaction,
  })
  for (const { id, outcome } of refused) {
    const said = JSON.parse(outcome) as { refusal: { code: string } }
    const refusal = { code: said.refusal.code, reasons: [erasedWord], toYes: [] }
    await models.commands.update({ outcome: JSON.stringify({ ...said, refusal }) }, { where: { id }, transaction })
  }
}

/** Whose, when and by whom, where it is played again; it stands in nobody’s way then. */
type Again = Pick<ErasureRow, 'id' | 'personId' | 'at'>
/**
 * Erases a customer, in one transaction: their words and names in every record, their rows, their pictures. The homes that others
 * have had work done in stay theirs.
 * @returns what stands in the way, and nothing was changed; null: it is done
 */
async function eraseCustomer(companyId: string, customerId: string, { id, personId, at }: Again, again: boolean): Promise<string[] | null> {
  const { models } = database()
  const told = await transacted(async (transaction): Promise<{ reasons: string[] } | { ids: string[] }> => {
    const planned = await theirs(customerId, transaction)
    const streamIds = [...new Set([...planned.jobs.flatMap((job) => [job.id, job.siteId]), ...planned.siteIds])]
    // In the order in which commands lock: nobody begins a visit meanwhile. Jobs that came in between are met by the second look.
    const locked = await lockStates(streamIds, transaction)
    const customer = await models.customers.findOne({ where: { id: customerId, companyId }, lock: transaction.LOCK.UPDATE, transaction })
    if (!customer) throw notFound('This customer')
    if (customer.erasedAt) return { ids: [] }
    const own = await theirs(customerId, transaction)
    if (own.jobs.length !== planned.jobs.length) throw new ApiError(409, 'newJob', 'A job for them was opened just now. Look again.')
    const reasons = again ? [] : await inTheWay(own, transaction)
    if (reasons.length) return { reasons }
    const addresses = (await models.sites.findAll({ where: { id: own.siteIds }, attributes: ['address'], raw: true, transaction })).flatMap(
      // With the town, and as one writes it in a note.
      ({ address }) => [address, address.split(',')[0]!],
    )
    const erasedIds = new Set([...own.jobs.map((job) => job.id), ...own.siteIds])
    const written = await writeOver(
      locked.filter(({ row }) => erasedIds.has(row.id)),
      (all) => {
        const known = namesPattern([customer.name, ...peopleNamed(all)], [customer.phone, customer.email, ...addresses])
        return (event) => withoutNames(withoutPicture(event, null) ?? withoutWords(event), known, isUnderstood)
      },
      { at, closed: true },
      transaction,
    )
    await projectAnew(written, locked, transaction)
    await eraseRows(customerId, own, at, transaction)
    await models.erasures.create({ id, companyId, kind: 'customer', refId: customerId, jobId: null, personId, at }, { transaction })
    if (!again)
      await leaveLine(
        { companyId, personId },
        { deed: 'erased', what: `a customer, job ${own.jobs.map((job) => job.number).join(', ')}` },
        transaction,
      )
    await announce(
      companyId,
      [
        ...own.jobs.map((job) => ({ topic: 'erased' as const, branchId: job.branchId, streamId: job.id })),
        ...(['jobs', 'sales', 'messages'] as const).map((topic) => ({ topic, branchId: null })),
      ],
      transaction,
    )
    return { ids: [...erasedIds] }
  })
  if ('reasons' in told) return told.reasons
  dropStates(told.ids)
  hub.wake(companyId)
  return null
}

/** Erases pictures of one job, in one transaction, and what was said of them. @returns how many went: those of before are gone already */
async function erasePictures(
  job: { id: string; companyId: string; branchId: string; siteId: string },
  photoIds: string[],
  { personId, at, ids }: { personId: string; at: Date; ids: Map<string, string> },
  again: boolean,
): Promise<number> {
  const { models } = database()
  const count = await transacted(async (transaction) => {
    const locked = await lockStates([job.siteId, job.id], transaction)
    const here = await models.photos.findAll({ where: { id: photoIds, jobId: job.id }, attributes: ['id'], raw: true, transaction })
    if (!here.length) return 0
    const gone = new Set(here.map(({ id }) => id))
    const written = await writeOver(
      locked.filter(({ row }) => row.id === job.id),
      () => (event) => withoutPicture(event, gone) ?? event,
      { at, closed: false },
      transaction,
    )
    await projectAnew(written, locked, transaction)
    await models.photos.destroy({ where: { id: [...gone] }, transaction })
    const { companyId } = job
    const rows = [...gone].map((refId) => ({
      id: ids.get(refId) ?? uuid(),
      companyId,
      kind: 'picture' as const,
      refId,
      jobId: job.id,
      personId,
      at,
    }))
    await models.erasures.bulkCreate(rows, { transaction })
    if (!again)
      await leaveLine(
        { companyId, personId },
        { deed: 'erased', what: gone.size === 1 ? 'a picture' : `${gone.size} pictures`, refId: job.id },
        transaction,
      )
    await announce(companyId, [{ topic: 'erased', branchId: job.branchId, streamId: job.id }], transaction)
    return gone.size
  })
  if (!count) return 0
  dropStates([job.id])
  hub.wake(job.companyId)
  return count
}

export async function erasePicture(viewer: Viewer, photoId: string, now = new Date()): Promise<{ ok: true }> {
  const { models } = database()
  const photo = await models.photos.findOne({ where: { id: photoId, companyId: viewer.companyId }, attributes: ['jobId'], raw: true })
  // Asked twice, it is gone once.
  const known = photo ?? (await models.erasures.findOne({ where: { refId: photoId, companyId: viewer.companyId }, raw: true }))
  if (!known?.jobId) throw notFound('This picture')
  const job = await jobFor(viewer, known.jobId)
  if (photo) await erasePictures(job, [photoId], { personId: viewer.personId, at: now, ids: new Map() }, false)
  await listErasures(viewer.companyId)
  return { ok: true }
}

/** One after the other: each is whole, whatever becomes of the next. @throws ApiError 404 where one is of nobody here */
export async function eraseCustomers(
  viewer: Viewer,
  { customerIds }: BodyOf<typeof contracts.eraseCustomers>,
  now = new Date(),
): Promise<AnswerOf<typeof contracts.eraseCustomers>> {
  const { companyId, personId } = viewer
  const { models } = database()
  const found = await models.customers.findAll({ where: { id: customerIds, companyId }, raw: true })
  const said: AnswerOf<typeof contracts.eraseCustomers> = { erased: [], left: [] }
  for (const customerId of new Set(customerIds)) {
    const customer = found.find(({ id }) => id === customerId)
    if (!customer) throw notFound('This customer')
    const reasons = await eraseCustomer(companyId, customerId, { id: uuid(), personId, at: now }, false)
    if (reasons) said.left.push({ customerId, name: customer.name, inTheWay: reasons })
    else said.erased.push(customerId)
  }
  await listErasures(companyId)
  return said
}

/** What was erased here once and is back, from a backup of before, goes again. @returns how much */
export async function eraseAgain(rows: ErasureRow[]): Promise<number> {
  const { models } = database()
  let count = 0
  for (const { id, companyId, kind, refId, jobId, personId, at } of rows)
    try {
      if (kind === 'customer') {
        const customer = await models.customers.findOne({ where: { id: refId, companyId }, raw: true })
        if (!customer || customer.erasedAt) continue
        await eraseCustomer(companyId, refId, { id, personId, at }, true)
        count += 1
      } else {
        const job = await models.jobs.findOne({ where: { id: jobId!, companyId }, raw: true })
        if (job) count += await erasePictures(job, [refId], { personId, at, ids: new Map([[refId, id]]) }, true)
      }
    } catch (error) {
      // The others go all the same, and a company works again; the next start tries this one once more.
      console.error(`${new Date().toISOString()} ${kind} ${refId} could not be erased again: ${(error as Error).message}`)
    }
  return count
}

const yearsBefore = (now: Date, years: number) => {
  const then = new Date(now)
  then.setUTCFullYear(then.getUTCFullYear() - years)
  return then
}
/** The newest thing that was done in a job: its visits, its handover, its callbacks. */
const lastInJob = `GREATEST(j.created_at, COALESCE(j.handed_over_at, j.created_at),
  COALESCE((SELECT MAX(v.ends_at) FROM visits v WHERE v.job_id = j.id AND v.status <> 'cancelled'), j.created_at),
  COALESCE((SELECT MAX(COALESCE(b.closed_at, b.opened_at)) FROM callbacks b WHERE b.job_id = j.id), j.created_at))`
async function customersThat(where: string, having: string, values: Record<string, unknown>): Promise<Erasable[]> {
  const rows = await database().sequelize.query<{ customerId: string; name: string; lastAt: Date }>(
    `SELECT c.id AS customerId, c.name AS name, MAX(${lastInJob}) AS lastAt FROM customers c JOIN jobs j ON j.customer_id = c.id
     WHERE c.company_id = :companyId AND c.erased_at IS NULL ${where} GROUP BY c.id, c.name ${having} ORDER BY lastAt, c.id LIMIT ${mostListed + 1}`,
    { type: QueryTypes.SELECT, replacements: values },
  )
  return Promise.all(
    rows.map(async ({ customerId, name, lastAt }) => ({
      customerId,
      name,
      lastAt: new Date(lastAt).toISOString(),
      ...(await whatGoes(customerId)),
    })),
  )
}
async function whatGoes(customerId: string): Promise<Omit<Erasable, 'customerId' | 'name' | 'lastAt'>> {
  const { models } = database()
  const own = await theirs(customerId)
  const of = { where: { jobId: own.jobs.map(({ id }) => id) } }
  const [homes, pictures, messages, offers, reasons] = await Promise.all([
    models.sites.findAll({ where: { id: own.siteIds }, attributes: ['name', 'address'], order: [['name', 'ASC']], raw: true }),
    models.photos.count(of),
    models.messages.count(of),
    models.quotes.count(of),
    inTheWay(own),
  ])
  return {
    homes: homes.map(({ name, address }) => [name, address].filter(Boolean).join(', ')),
    ...{ jobs: own.jobs.length, pictures, messages, offers, inTheWay: reasons },
  }
}
export async function findErasable({ companyId }: Viewer, search: string): Promise<AnswerOf<typeof contracts.findErasable>> {
  const part = `%${search.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`
  const customers = await customersThat(
    `AND (c.name LIKE :part OR c.phone LIKE :part OR c.email LIKE :part OR EXISTS (SELECT 1 FROM sites s WHERE s.id = j.site_id AND (s.name LIKE :part OR s.address LIKE :part)))`,
    '',
    { companyId, part },
  )
  return { customers: customers.slice(0, mostListed) }
}

const duePictures = (companyId: string, before: Date) => ({ companyId, uploadedAt: { [Op.lt]: before } })
export async function readErasures({ companyId }: Viewer, now = new Date()): Promise<AnswerOf<typeof contracts.readErasures>> {
  const { models, sequelize } = database()
  const company = (await models.companies.findByPk(companyId, { raw: true }))!
  const { keepCustomersYears, keepPicturesYears } = company
  const [customers, pictures, names, rows] = await Promise.all([
    keepCustomersYears === null
      ? []
      : customersThat('', 'HAVING lastAt < :before', { companyId, before: yearsBefore(now, keepCustomersYears) }),
    keepPicturesYears === null ? 0 : models.photos.count({ where: duePictures(companyId, yearsBefore(now, keepPicturesYears)) }),
    peopleNames(companyId),
    sequelize.query<{
      id: string
      kind: ErasureRow['kind']
      refId: string
      jobId: string | null
      personId: string
      at: Date
      count: number
    }>(
      `SELECT MIN(id) AS id, kind, MIN(ref_id) AS refId, job_id AS jobId, person_id AS personId, at, COUNT(*) AS count FROM erasures
       WHERE company_id = :companyId GROUP BY kind, IF(kind = 'customer', ref_id, job_id), job_id, person_id, at ORDER BY at DESC, id LIMIT ${mostListed}`,
      { type: QueryTypes.SELECT, replacements: { companyId } },
    ),
  ])
  const jobs = await models.jobs.findAll({
    where: {
      companyId,
      [Op.or]: [
        { customerId: rows.flatMap(({ kind, refId }) => (kind === 'customer' ? [refId] : [])) },
        { id: rows.flatMap(({ jobId }) => jobId ?? []) },
      ],
    },
    attributes: ['id', 'number', 'customerId'],
    order: [['number', 'ASC']],
    raw: true,
  })
  return {
    keep: { customersYears: keepCustomersYears, picturesYears: keepPicturesYears },
    due: { customers: customers.slice(0, mostListed), moreCustomers: customers.length > mostListed, pictures },
    listKept: await listIsKept(),
    erased: rows.map(({ id, kind, refId, jobId, personId, at, count }) => ({
      ...{ id, kind, at: new Date(at).toISOString(), who: names.get(personId) ?? '', count: Number(count) },
      jobs: jobs.flatMap((job) =>
        (kind === 'customer' ? job.customerId === refId : job.id === jobId) ? [{ id: job.id, number: job.number }] : [],
      ),
    })),
  }
}
export async function keepFor(viewer: Viewer, { customersYears, picturesYears }: BodyOf<typeof contracts.keepFor>): Promise<{ ok: true }> {
  const { models } = database()
  await transacted(async (transaction) => {
    const company = (await models.companies.findByPk(viewer.companyId, { transaction, lock: transaction.LOCK.UPDATE }))!
    const word = (years: number | null) => (years === null ? '–' : String(years))
    const changes = [
      { field: 'customers kept, years', from: word(company.keepCustomersYears), to: word(customersYears) },
      { field: 'pictures kept, years', from: word(company.keepPicturesYears), to: word(picturesYears) },
    ].filter(({ from, to }) => from !== to)
    if (!changes.length) return
    await company.update({ keepCustomersYears: customersYears, keepPicturesYears: picturesYears }, { transaction })
    await leaveLine(viewer, { deed: 'erased', what: 'how long is kept', changes }, transaction)
  })
  return { ok: true }
}
/** Those that are due now, job by job. */
export async function eraseDuePictures(
  { companyId, personId }: Viewer,
  now = new Date(),
): Promise<AnswerOf<typeof contracts.eraseDuePictures>> {
  const { models } = database()
  const { keepPicturesYears } = (await models.companies.findByPk(companyId, { raw: true }))!
  if (keepPicturesYears === null) throw new ApiError(409, 'keptForGood', 'Pictures are kept: say first for how long.')
  const where = duePictures(companyId, yearsBefore(now, keepPicturesYears))
  const due = await models.photos.findAll({
    where,
    attributes: ['id', 'jobId'],
    order: [['uploadedAt', 'ASC']],
    limit: mostPictures,
    raw: true,
  })
  const jobs = await models.jobs.findAll({ where: { id: due.map(({ jobId }) => jobId) }, raw: true })
  let erased = 0
  for (const job of jobs) {
    const ids = due.flatMap((photo) => (photo.jobId === job.id ? [photo.id] : []))
    erased += await erasePictures(job, ids, { personId, at: now, ids: new Map() }, false)
  }
  await listErasures(companyId)
  return { erased, left: await models.photos.count({ where }) }
}

/** Jobs in which something was erased since. */
export async function erasedJobs({ companyId }: Viewer, after: Date, now = new Date()): Promise<AnswerOf<typeof contracts.erasedJobs>> {
  const { models } = database()
  const rows = await models.erasures.findAll({ where: { companyId, at: { [Op.gte]: after } }, raw: true })
  const jobs = await models.jobs.findAll({
    where: { companyId, customerId: rows.flatMap(({ kind, refId }) => (kind === 'customer' ? [refId] : [])) },
    attributes: ['id'],
    raw: true,
  })
  return {
    jobIds: [...new Set([...jobs.map(({ id }) => id), ...rows.flatMap(({ jobId }) => jobId ?? [])])],
    // What is being erased just now bears an earlier time when it can be seen.
    asOf: new Date(now.getTime() - longestErasingMs).toISOString(),
  }
}
