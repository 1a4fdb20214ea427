import { QueryTypes } from 'sequelize'
import program from '../../package.json' with { type: 'json' }
import { database } from '../database'
import { isMigrated } from '../database/migrate'
import { secretKey } from '../database/secret-key'
import { freeBytes } from '../metrics'
import { ApiError } from './errors'

/** Less than this is left on the disk: what is to be stored soon could not be. */
const leastBytes = 200_000_000

/**
 * Whether this server can do its work: its database answers, takes writes and has the tables of this version, its key is there, the
 * disk has room.
 * @throws ApiError 503 with what is wrong, all of it
 */
export async function readiness(): Promise<{ ok: true; version: string; freeBytes: number }> {
  const { sequelize } = database()
  const wrong: string[] = []
  const [state] = await sequelize.query<{ readOnly: number }>('SELECT @@global.read_only AS readOnly', { type: QueryTypes.SELECT })
  if (Number(state!.readOnly)) wrong.push('The database takes no writes.')
  // A database without any table of ours is older still.
  if (!(await isMigrated(sequelize).catch(() => false))) wrong.push('The tables are of an older version.')
  try {
    secretKey()
  } catch (error) {
    wrong.push((error as Error).message)
  }
  const free = await freeBytes()
  if (free < leastBytes) wrong.push(`The disk has ${Math.round(free / 1e6)} MB left.`)
  if (wrong.length) throw new ApiError(503, 'notReady', wrong.join(' '))
  return { ok: true, version: program.version, freeBytes: free }
}
