import { QueryTypes } from 'sequelize'
import program from '../../package.json' with { type: 'json' }
import { counted } from '../../core/units/counted'
import { database } from '../database'
import { isMigrated } from '../database/migrate'
import { secretKey } from '../database/secret-key'
import { freeBytes } from '../metrics'
import { ApiError } from './errors'
import { sessionsDiffer } from './installation'

/** Less than this is left on the disk: what is to be stored soon could not be. */
const leastBytes = 200_000_000
/** The database’s clock is the one that all servers share: whoever differs more dates proofs and locks as no other does, ms. */
const mostClockOffMs = 5000

/** What is said of a clock that differs; null: it does not. A clock that was read while the question was on its way is given that much. */
export function clockSaid(databaseAt: number, askedAt: number, answeredAt: number): string | null {
  const off = askedAt > databaseAt ? askedAt - databaseAt : Math.min(0, answeredAt - databaseAt)
  if (Math.abs(off) < mostClockOffMs) return null
  return `The clock of this machine is ${counted(Math.round(Math.abs(off) / 1000), 'second')} ${off > 0 ? 'ahead of' : 'behind'} the database’s.`
}

/**
 * Whether this server can do its work: its database answers, takes writes and has the tables of this version, its key is there, logins
 * are sealed as on the other servers, its clock is that of the database, the disk has room.
 * @throws ApiError 503 with what is wrong, all of it
 */
export async function readiness(): Promise<{ ok: true; version: string; freeBytes: number }> {
  const { sequelize } = database()
  const wrong: string[] = []
  const askedAt = Date.now()
  const [state] = await sequelize.query<{ readOnly: number; at: string }>(
    'SELECT @@global.read_only AS readOnly, UNIX_TIMESTAMP(NOW(3)) AS at',
    { type: QueryTypes.SELECT },
  )
  const clock = clockSaid(Number(state!.at) * 1000, askedAt, Date.now())
  if (clock) wrong.push(clock)
  if (Number(state!.readOnly)) wrong.push('The database takes no writes.')
  // A database without any table of ours is older still.
  if (!(await isMigrated(sequelize).catch(() => false))) wrong.push('The tables are of an older version.')
  try {
    secretKey()
  } catch (error) {
    wrong.push((error as Error).message)
  }
  if (await sessionsDiffer().catch(() => false))
    wrong.push('Servers have different NUXT_SESSION_PASSWORD: whoever is passed from one to another is logged out.')
  const free = await freeBytes()
  if (free < leastBytes) wrong.push(`The disk has ${Math.round(free / 1e6)} MB left.`)
  if (wrong.length) throw new ApiError(503, 'notReady', wrong.join(' '))
  return { ok: true, version: program.version, freeBytes: free }
}
