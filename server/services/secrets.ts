import { createCipheriv, createDecipheriv, hkdfSync, randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto'
import { v7 as uuid } from 'uuid'
import { database } from '../database'
import { secretKey } from '../database/secret-key'
import type { Viewer } from './access'

/** Encrypts a secret for storage: AES-256-GCM, `v1:iv:tag:ciphertext` in base64url. */
export function seal(secret: string): string {
  const iv = randomBytes(12)
  const cipher = createCipheriv('aes-256-gcm', secretKey(), iv)
  const ciphertext = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()])
  return ['v1', iv.toString('base64url'), cipher.getAuthTag().toString('base64url'), ciphertext.toString('base64url')].join(':')
}

/** Opens a sealed secret. Throws when it was tampered with or sealed with another key. */
export function unseal(sealed: string): string {
  const [version, iv, tag, ciphertext] = sealed.split(':')
  if (version !== 'v1' || !iv || !tag || ciphertext === undefined) throw new Error('Not a sealed secret.')
  const decipher = createDecipheriv('aes-256-gcm', secretKey(), Buffer.from(iv, 'base64url'))
  decipher.setAuthTag(Buffer.from(tag, 'base64url'))
  return Buffer.concat([decipher.update(Buffer.from(ciphertext, 'base64url')), decipher.final()]).toString('utf8')
}

/** Seals what a person has not sent yet on their devices; 32 bytes in base64. */
export const deviceKeyOf = (personId: string): string =>
  Buffer.from(hkdfSync('sha256', secretKey(), personId, 'unsent on a device', 32)).toString('base64')

/** Every reading of a secret leaves a line. */
export async function logSecretRead(viewer: Viewer, what: 'setupCode' | 'doorCode' | 'pack' | 'homePage', refId: string): Promise<void> {
  await database().models.secretReads.create({
    id: uuid(),
    companyId: viewer.companyId,
    personId: viewer.personId,
    what,
    refId,
    at: new Date(),
  })
}

const cost: ScryptOptions = { N: 16384, r: 8, p: 1 }
const derive = (password: string, salt: Buffer) =>
  new Promise<Buffer>((resolve, reject) =>
    scrypt(password.normalize('NFKC'), salt, 64, cost, (error, out) => (error ? reject(error) : resolve(out))),
  )

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16)
  return `scrypt:${salt.toString('base64url')}:${(await derive(password, salt)).toString('base64url')}`
}

export async function passwordMatches(password: string, stored: string): Promise<boolean> {
  const [scheme, salt, expected] = stored.split(':')
  if (scheme !== 'scrypt' || !salt || !expected) return false
  const wanted = Buffer.from(expected, 'base64url')
  const got = await derive(password, Buffer.from(salt, 'base64url'))
  return wanted.length === got.length && timingSafeEqual(wanted, got)
}
