import { createHmac, hkdfSync, timingSafeEqual } from 'node:crypto'
import { parse, stringify } from 'uuid'
import { secretKey, trustedKeys } from '../database/secret-key'

/** What a link opens without an account. */
export type LinkKind = 'visit' | 'calendar' | 'home'
const macBytes = 18

const macOf = (kind: LinkKind | 'device', id: string, epoch: number, by = secretKey()): Buffer => {
  const key = Buffer.from(hkdfSync('sha256', by, Buffer.alloc(0), `circuitry link ${kind}`, 32))
  return createHmac('sha256', key).update(`${id}:${epoch}`).digest().subarray(0, macBytes)
}

/**
 * A link’s key: the id of what it opens, and a mark that only this server can make.
 * @param epoch Another number, and links that were given out before open nothing any more.
 */
export const linkKey = (kind: LinkKind, id: string, epoch = 0): string =>
  Buffer.concat([Buffer.from(parse(id)), macOf(kind, id, epoch)]).toString('base64url')

/** The mark by which a device is known to be one on which somebody has logged in before. */
export const deviceMark = (personId: string, deviceId: string, by = secretKey()): string =>
  macOf('device', `${personId} ${deviceId}`, 0, by).toString('base64url')
/** Whether one of these marks is theirs, whichever key made it. */
export const hasMark = (marks: string[], personId: string, deviceId: string): boolean =>
  trustedKeys().some((key) => marks.includes(deviceMark(personId, deviceId, key)))

/** What a key holds; null: it is none. One key is written in one way: bits that say nothing are not there to be turned. */
function bytesOf(key: string): Buffer | null {
  const bytes = Buffer.from(key, 'base64url')
  return bytes.length === 16 + macBytes && bytes.toString('base64url') === key ? bytes : null
}
/** The id that a key names; whether it opens it is for `opens` to say. null: it is none. */
export function idIn(key: string): string | null {
  const bytes = bytesOf(key)
  if (!bytes) return null
  try {
    return stringify(bytes.subarray(0, 16))
  } catch {
    return null
  }
}
export function opens(kind: LinkKind, key: string, id: string, epoch = 0): boolean {
  const bytes = bytesOf(key)
  return bytes !== null && trustedKeys().some((key) => timingSafeEqual(bytes.subarray(16), macOf(kind, id, epoch, key)))
}
