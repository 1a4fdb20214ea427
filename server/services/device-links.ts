import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import { Op } from 'sequelize'
import type { BodyOf, DeviceLinkLine, links } from '../../core/protocol'
import { database, transacted, type DeviceLinkRow } from '../database'
import { peopleNames, type Viewer } from './access'
import { needHere } from './companies'
import { ApiError, notFound } from './errors'
import { announce } from './feed'
import { countTry, wasRight } from './throttle'

/** A one-time code holds so long, and a link that was not heard of for so long is away, ms. */
const [codeForMs, awayAfterMs] = [10 * 60_000, 40_000]
/** Letters and digits that nobody takes for one another. */
const alphabet = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789'

export const hashOf = (secret: string) => createHash('sha256').update(secret).digest('hex')
const plainCode = (code: string) => code.toUpperCase().replace(/[^A-Z0-9]/g, '')
export const isOnline = ({ seenAt }: DeviceLinkRow, now = Date.now()) => seenAt !== null && now - seenAt.getTime() < awayAfterMs

/** Ten letters of 32: 50 bits, of which an address may guess twenty in a quarter of an hour. */
function newCode(): string {
  const letters = [...randomBytes(10)].map((byte) => alphabet[byte % alphabet.length]).join('')
  return `${letters.slice(0, 5)}-${letters.slice(5)}`
}

export async function listLinks(viewer: Viewer): Promise<{ links: DeviceLinkLine[] }> {
  const { models } = database()
  const rows = await models.deviceLinks.findAll({
    where: { companyId: viewer.companyId, endedAt: null },
    order: [
      ['madeAt', 'ASC'],
      ['id', 'ASC'],
    ],
    raw: true,
  })
  const held = await models.deviceFabrics.findAll({ where: { companyId: viewer.companyId, emptiedAt: null }, raw: true })
  const jobs = await models.jobs.findAll({ where: { id: held.map(({ jobId }) => jobId) }, attributes: ['id', 'number'], raw: true })
  const names = await peopleNames(viewer.companyId)
  const now = Date.now()
  return {
    links: rows
      // A code that nobody used in time is none.
      .filter((row) => row.pairedAt || row.codeUntil.getTime() > now)
      .map((row) => ({
        id: row.id,
        name: row.name,
        madeBy: names.get(row.madeBy) ?? '',
        pairedAt: row.pairedAt?.toISOString() ?? null,
        seenAt: row.seenAt?.toISOString() ?? null,
        online: isOnline(row, now),
        holds: held.flatMap(({ jobId, linkId }) => (linkId === row.id ? [`job ${jobs.find(({ id }) => id === jobId)?.number ?? ''}`] : [])),
      })),
  }
}

/** @param code Where the code is known beforehand: the stand-ins that the start command brings along. */
export async function makeLink(
  viewer: Pick<Viewer, 'companyId' | 'personId'>,
  { id, name }: BodyOf<typeof links.makeLink>,
  code = newCode(),
): Promise<{ id: string; code: string; until: string }> {
  const until = new Date(Date.now() + codeForMs)
  await transacted(async (transaction) => {
    if (await database().models.deviceLinks.findByPk(id, { transaction }))
      throw new ApiError(409, 'codeShown', 'This code was shown already. Make a new one.')
    await database().models.deviceLinks.create(
      {
        ...{ id, companyId: viewer.companyId, name, madeBy: viewer.personId, madeAt: new Date() },
        ...{ codeHash: hashOf(plainCode(code)), codeUntil: until, keyHash: null, pairedAt: null, seenAt: null, endedAt: null },
      },
      { transaction },
    )
    await announce(viewer.companyId, [{ topic: 'links', branchId: null }], transaction)
  })
  return { id, code, until: until.toISOString() }
}

export async function endLink(viewer: Viewer, id: string, { despiteHomes }: BodyOf<typeof links.endLink>): Promise<{ ok: true }> {
  const { models } = database()
  await transacted(async (transaction) => {
    const row = await models.deviceLinks.findOne({ where: { id, companyId: viewer.companyId, endedAt: null }, transaction, lock: true })
    if (!row) throw notFound('This link')
    const held = await models.deviceFabrics.count({ where: { linkId: id, emptiedAt: null }, transaction })
    if (held && !despiteHomes)
      throw new ApiError(
        409,
        'holdsHomes',
        `${row.name} still holds the installer of ${held} ${held === 1 ? 'home' : 'homes'}: without it each device there has to be reset to be rid of it.`,
      )
    await models.deviceLinks.update({ endedAt: new Date(), keyHash: null, codeHash: null }, { where: { id }, transaction })
    await models.linkAsks.update(
      { state: 'failed', said: 'The link was ended.', doneAt: new Date() },
      { where: { linkId: id, state: ['waiting', 'taken'] }, transaction },
    )
    await announce(viewer.companyId, [{ topic: 'links', branchId: null }], transaction)
  })
  return { ok: true }
}

/** Changes a one-time code for a pass. The code is used up in the same breath. */
export async function pairLink({ code, name }: BodyOf<typeof links.pairLink>, address: string): Promise<{ linkId: string; key: string }> {
  await countTry('linkCode', address)
  const key = randomBytes(32).toString('base64url')
  const { models } = database()
  const linkId = await transacted(async (transaction) => {
    const row = await models.deviceLinks.findOne({
      where: { codeHash: hashOf(plainCode(code)), endedAt: null, codeUntil: { [Op.gt]: new Date() } },
      transaction,
      lock: true,
    })
    if (!row)
      throw new ApiError(401, 'wrongCode', 'This code is wrong, was used, or is older than ten minutes. Make a new one in the settings.')
    await models.deviceLinks.update(
      { codeHash: null, keyHash: hashOf(key), pairedAt: new Date(), seenAt: new Date(), ...(row.name ? {} : { name }) },
      { where: { id: row.id }, transaction },
    )
    await announce(row.companyId, [{ topic: 'links', branchId: null }], transaction)
    return row.id
  })
  await wasRight('linkCode', address)
  return { linkId, key }
}

/** The link of a pass. Throws ApiError 401: it is none, or not any more. */
export async function linkOfPass(header: string | undefined): Promise<DeviceLinkRow> {
  const [, id, key] = /^Bearer ([0-9a-f-]{36})\.([\w-]{43})$/.exec(header ?? '') ?? []
  const row = id ? await database().models.deviceLinks.findOne({ where: { id, endedAt: null }, raw: true }) : null
  const good = row?.keyHash && timingSafeEqual(Buffer.from(row.keyHash), Buffer.from(hashOf(key!)))
  if (!row || !good) throw new ApiError(401, 'noLink', 'This is no link of any company here, or not any more.')
  await needHere(row.companyId)
  return row
}
