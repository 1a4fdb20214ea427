import { createHmac, hkdfSync } from 'node:crypto'

/** The key of everything that is sealed here. Throws where it is missing. */
export function secretKey(): Buffer {
  const text = process.env.CIRCUITRY_SECRET_KEY
  const bytes = Buffer.from(text ?? '', 'base64')
  if (bytes.length !== 32) throw new Error('CIRCUITRY_SECRET_KEY must be 32 bytes in base64.')
  return bytes
}

/** How a keyed fingerprint begins; one of before has the plain digest only. */
export const keyedMark = 'k1:'
/**
 * What tells two contents apart without telling what is in them: whoever has the database alone cannot try setup codes against it.
 * @param digest SHA-256 of the content, hex
 */
export const keyedFingerprint = (digest: string): string =>
  keyedMark +
  createHmac('sha256', Buffer.from(hkdfSync('sha256', secretKey(), '', 'command fingerprint', 32)))
    .update(digest)
    .digest('base64url')
