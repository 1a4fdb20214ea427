/**
 * What a person leaves unsent on a device is sealed: AES-256-GCM by a key that their login gives them, bound to the person.
 * Whoever holds the device after them finds bytes.
 */
export interface Sealed {
  iv: Uint8Array<ArrayBuffer>
  bytes: ArrayBuffer
}
const texts = new TextEncoder()
/** Browsers seal on pages that came over TLS, or from this very device. */
export const canSeal = () => Boolean(globalThis.crypto.subtle as SubtleCrypto | undefined)
const how = (iv: Uint8Array<ArrayBuffer>, personId: string) => ({ name: 'AES-GCM', iv, additionalData: texts.encode(personId) })

export async function sealBytes(key: CryptoKey, personId: string, bytes: BufferSource): Promise<Sealed> {
  const iv = crypto.getRandomValues(new Uint8Array(12))
  return { iv, bytes: await crypto.subtle.encrypt(how(iv, personId), key, bytes) }
}
/** @throws where it is another’s, was sealed with another key, or is not as it was */
export const openBytes = (key: CryptoKey, personId: string, { iv, bytes }: Sealed): Promise<ArrayBuffer> =>
  crypto.subtle.decrypt(how(iv, personId), key, bytes)

export const sealText = (key: CryptoKey, personId: string, text: string) => sealBytes(key, personId, texts.encode(text))
export const openText = async (key: CryptoKey, personId: string, sealed: Sealed): Promise<string> =>
  new TextDecoder().decode(await openBytes(key, personId, sealed))

/** @param key 32 bytes in base64. No script reads it again: it can only be used. */
export const importKey = (key: string): Promise<CryptoKey> =>
  crypto.subtle.importKey(
    'raw',
    Uint8Array.from(atob(key), (sign) => sign.charCodeAt(0)),
    'AES-GCM',
    false,
    ['encrypt', 'decrypt'],
  )

/** A picture in a sealed value, by its number: JSON has no bytes. */
const pictureMark = '\u0000picture'
export interface SealedValue {
  text: Sealed
  pictures: (Sealed & { type: string })[]
}
/** Seals a value of JSON that may hold pictures. */
export async function sealValue(key: CryptoKey, personId: string, value: unknown): Promise<SealedValue> {
  const blobs: Blob[] = []
  const text = JSON.stringify(value, (_, part: unknown) => (part instanceof Blob ? { [pictureMark]: blobs.push(part) - 1 } : part))
  return {
    text: await sealText(key, personId, text),
    pictures: await Promise.all(
      blobs.map(async (blob) => ({ type: blob.type, ...(await sealBytes(key, personId, await blob.arrayBuffer())) })),
    ),
  }
}
export async function openValue(key: CryptoKey, personId: string, { text, pictures }: SealedValue): Promise<unknown> {
  const blobs = await Promise.all(
    pictures.map(async (picture) => new Blob([await openBytes(key, personId, picture)], { type: picture.type })),
  )
  return JSON.parse(await openText(key, personId, text), (_, part: unknown) =>
    typeof part === 'object' && part !== null && pictureMark in part ? blobs[part[pictureMark] as number] : part,
  )
}
