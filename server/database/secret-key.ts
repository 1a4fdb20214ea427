import { createHmac, hkdfSync } from 'node:crypto'

/** A key of 32 bytes from its text in base64. @param name which one, for whoever has to mend it */
function keyFrom(text: string | undefined, name: string): Buffer {
  const bytes = Buffer.from(text ?? '', 'base64')
  if (bytes.length !== 32) throw new Error(`${name} must be 32 bytes in base64.`)
  return bytes
}

/** The key that seals from now on. Throws where it is missing. */
export const secretKey = (): Buffer => keyFrom(process.env.CIRCUITRY_SECRET_KEY, 'CIRCUITRY_SECRET_KEY')

/** Keys that open what they sealed and seal nothing: while keys change, the one of before or the one that comes. */
export const otherKeys = (): Buffer[] =>
  (process.env.CIRCUITRY_OTHER_SECRET_KEYS ?? '')
    .split(',')
    .filter((text) => text.trim() !== '')
    .map((text) => keyFrom(text.trim(), 'Each of CIRCUITRY_OTHER_SECRET_KEYS'))

/** A key that sealed here once. */
export interface FormerKey {
  /** 32 bytes in base64. */
  key: string
  /** Somebody else may have it: what it signed opens nothing any more. */
  leaked: boolean
}
/** Kept in the database, sealed with the key of today, oldest first: nothing is sealed with them any more. */
let former: FormerKey[] = []
/** Of the key with which this database began. */
let firstId: string | null = null
export function noteKeys(keys: FormerKey[], first: string): void {
  former = keys
  firstId = first
}
export const formerKeys = (): FormerKey[] => former

/** Every key that may have made what is stored here: today’s first. */
export function knownKeys(): Buffer[] {
  const [today, others] = [secretKey(), otherKeys()]
  const kept = former.map(({ key }) => Buffer.from(key, 'base64'))
  return [today, ...others, ...kept.reverse()].filter((key, at, all) => all.findIndex((one) => one.equals(key)) === at)
}
/** Those whose signature is believed. */
export function trustedKeys(): Buffer[] {
  const leaked = former.filter((one) => one.leaked).map(({ key }) => Buffer.from(key, 'base64'))
  return knownKeys().filter((key) => !leaked.some((one) => one.equals(key)))
}
/** What is made for one’s devices must stay what it was when keys change: the key with which this database began makes it. */
export const firstKey = (): Buffer => knownKeys().find((key) => keyId(key) === firstId) ?? secretKey()

/** Tells one key from another without telling it: 8 signs. */
export const keyId = (key: Buffer): string => Buffer.from(hkdfSync('sha256', key, '', 'circuitry key id', 6)).toString('base64url')

/** How a keyed fingerprint begins; one of before has the plain digest only. */
export const keyedMark = 'k1:'
/**
 * What tells two contents apart without telling what is in them: whoever has the database alone cannot try setup codes against it.
 * @param digest SHA-256 of the content, hex
 */
export const keyedFingerprint = (digest: string, key = secretKey()): string =>
  keyedMark +
  createHmac('sha256', Buffer.from(hkdfSync('sha256', key, '', 'command fingerprint', 32)))
    .update(digest)
    .digest('base64url')
/** Of a command that a company brought along: the key that tells its content stayed behind, its id has to do. */
export const movedFingerprint = 'moved'
/** Whether a stored fingerprint is that of this content, whichever key made it. */
export const isFingerprintOf = (stored: string, digest: string): boolean =>
  stored === movedFingerprint || knownKeys().some((key) => keyedFingerprint(digest, key) === stored)
