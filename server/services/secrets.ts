import { createCipheriv, createDecipheriv, hkdfSync, randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto'
import { v7 as uuid } from 'uuid'
import { database } from '../database'
import { firstKey, keyId, knownKeys, secretKey } from '../database/secret-key'
import type { Viewer } from './access'

/** Encrypts a secret for storage: AES-256-GCM, `v2:key:iv:tag:ciphertext` in base64url; `key` tells which key opens it. */
export function seal(secret: string, key = secretKey()): string {
  const iv = randomBytes(12)
  const cipher = createCipheriv('aes-256-gcm', key, iv)
  const ciphertext = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()])
  return ['v2', keyId(key), ...[iv, cipher.getAuthTag(), ciphertext].map((part) => part.toString('base64url'))].join(':')
}

function openWith(key: Buffer, [iv, tag, ciphertext]: string[]): string {
  const decipher = createDecipheriv('aes-256-gcm', key, Buffer.from(iv!, 'base64url'))
  decipher.setAuthTag(Buffer.from(tag!, 'base64url'))
  return Buffer.concat([decipher.update(Buffer.from(ciphertext!, 'base64url')), decipher.final()]).toString('utf8')
}
/** Opens a sealed secret, also one of before keys had names (`v1`). Throws when it was tampered with or sealed with another key. */
export function unseal(sealed: string): string {
  const [version, ...parts] = sealed.split(':')
  const named = version === 'v2' ? parts.shift() : null
  if ((version !== 'v1' && version !== 'v2') || parts.length !== 3) throw new Error('Not a sealed secret.')
  const keys = knownKeys().filter((key) => named === null || keyId(key) === named)
  for (const [at, key] of keys.entries())
    try {
      return openWith(key, parts)
    } catch (error) {
      if (at === keys.length - 1) throw error
    }
  throw new Error('This was sealed with a key that is not here.')
}

/** What is sealed, wherever it stands in a text. */
const sealedPattern = /v1(?::[\w-]+){2}:[\w-]*|v2(?::[\w-]+){3}:[\w-]*/g
/**
 * The same text with all that another key sealed in it sealed with this one.
 * @returns null where nothing of it has to be sealed anew
 */
export function sealedAnew(text: string, key = secretKey()): string | null {
  const ours = `v2:${keyId(key)}:`
  let changed = false
  const anew = text.replace(sealedPattern, (sealed) => {
    if (sealed.startsWith(ours)) return sealed
    try {
      const made = seal(unseal(sealed), key)
      changed = true
      return made
    } catch {
      // It only looks like one: somebody wrote it.
      return sealed
    }
  })
  return changed ? anew : null
}

/** Seals what a person has not sent yet on their devices; 32 bytes in base64. */
export const deviceKeyOf = (personId: string): string =>
  Buffer.from(hkdfSync('sha256', firstKey(), personId, 'unsent on a device', 32)).toString('base64')

/** Every reading of a secret leaves a line. */
export async function logSecretRead(
  viewer: Viewer,
  what: 'setupCode' | 'doorCode' | 'pack' | 'homePage',
  refId: string,
  reason = '',
): Promise<void> {
  await database().models.secretReads.create({
    id: uuid(),
    companyId: viewer.companyId,
    personId: viewer.personId,
    what,
    refId,
    at: new Date(),
    reason,
  })
}

/** What a hash costs: N = 2^ln, r, p of RFC 7914. It is stored with the hash, so that it can be raised later. */
interface Cost {
  ln: number
  r: number
  p: number
}
/** The least of the OWASP Password Storage Cheat Sheet (2^15, 8, 3; from memory): 32 MB and a few tenths of a second. */
const usualCost: Cost = { ln: 15, r: 8, p: 3 }
/** Of hashes of before, which do not say. */
const firstCost: Cost = { ln: 14, r: 8, p: 1 }
const costPattern = /^ln=(\d{1,2}),r=(\d{1,2}),p=(\d{1,2})$/
const costIn = (text: string): Cost | null => {
  const [, ln, r, p] = (costPattern.exec(text) ?? []).map(Number) as [number, number, number, number]
  return ln >= 10 && ln <= 20 && r >= 1 && p >= 1 ? { ln, r, p } : null
}
/** A host may ask for more, or for less where it is small: `CIRCUITRY_SCRYPT=ln=15,r=8,p=3`. */
const costNow = (): Cost => costIn(process.env.CIRCUITRY_SCRYPT ?? '') ?? usualCost
const costWords = ({ ln, r, p }: Cost) => `ln=${ln},r=${r},p=${p}`

const derive = (password: string, salt: Buffer, { ln, r, p }: Cost) =>
  new Promise<Buffer>((resolve, reject) => {
    const how: ScryptOptions = { N: 2 ** ln, r, p, maxmem: 160 * 2 ** ln * r }
    scrypt(password.normalize('NFKC'), salt, 64, how, (error, out) => (error ? reject(error) : resolve(out)))
  })

export async function hashPassword(password: string): Promise<string> {
  const [salt, cost] = [randomBytes(16), costNow()]
  return `scrypt:${costWords(cost)}:${salt.toString('base64url')}:${(await derive(password, salt, cost)).toString('base64url')}`
}

function partsOf(stored: string): { cost: Cost; salt: Buffer; hash: Buffer } | null {
  const [scheme, ...parts] = stored.split(':')
  const cost = parts.length === 3 ? costIn(parts.shift()!) : firstCost
  const [salt, hash] = parts
  return scheme === 'scrypt' && cost && salt && hash && parts.length === 2
    ? { cost, salt: Buffer.from(salt, 'base64url'), hash: Buffer.from(hash, 'base64url') }
    : null
}
export async function passwordMatches(password: string, stored: string): Promise<boolean> {
  const parts = partsOf(stored)
  if (!parts) return false
  const got = await derive(password, parts.salt, parts.cost)
  return parts.hash.length === got.length && timingSafeEqual(parts.hash, got)
}
/** Made when hashes cost another thing: whoever knows the password now makes a new one. */
export function isOldHash(stored: string): boolean {
  const parts = partsOf(stored)
  return parts !== null && costWords(parts.cost) !== costWords(costNow())
}
