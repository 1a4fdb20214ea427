import { indexedDbOutbox } from './indexed-db-outbox'
import { forgetSeen, keptValue, localStore, ownKey, waitingSealing } from './local-store'
import { openText, sealText } from './sealing'

/** One storage for all: entries are sealed wherever they are kept or listed. */
export const waitingStorage = indexedDbOutbox(localStore, waitingSealing)

const draftsOf = (personId: string) => `circuitry-draft ${personId} `
const sealedDraftsOf = (personId: string) => `circuitry-sealed ${personId}`
const keysWith = (beginning: string) => Object.keys(localStorage).filter((key) => key.startsWith(beginning))
const letters = (bytes: Uint8Array) => btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''))
const bytesOf = (text: string) => Uint8Array.from(atob(text), (sign) => sign.charCodeAt(0))

/** What somebody was writing is put away under their key. */
async function sealDrafts(personId: string, key: CryptoKey): Promise<void> {
  const drafts = keysWith(draftsOf(personId))
  if (!drafts.length) return
  const sealed = await sealText(key, personId, JSON.stringify(drafts.map((name) => [name, localStorage.getItem(name)])))
  localStorage.setItem(sealedDraftsOf(personId), JSON.stringify({ iv: letters(sealed.iv), bytes: letters(new Uint8Array(sealed.bytes)) }))
  for (const name of drafts) localStorage.removeItem(name)
}
/** They are back: what they were writing is where it was. What they wrote since stays as it is. */
export async function openDrafts(personId: string): Promise<void> {
  const kept = localStorage.getItem(sealedDraftsOf(personId))
  if (!kept) return
  try {
    const key = await ownKey(personId)
    if (!key) return
    const { iv, bytes } = JSON.parse(kept) as { iv: string; bytes: string }
    const drafts = JSON.parse(await openText(key, personId, { iv: bytesOf(iv), bytes: bytesOf(bytes).buffer })) as [string, string][]
    for (const [name, draft] of drafts) if (localStorage.getItem(name) === null) localStorage.setItem(name, draft)
    localStorage.removeItem(sealedDraftsOf(personId))
  } catch {
    // Sealed with a key that the server has no more, or no room: it stays sealed.
  }
}

/** Before somebody leaves this device, while their login still stands: what they did not send is sealed for them. */
export async function sealWork(personId: string): Promise<void> {
  try {
    const key = await ownKey(personId)
    if (key) await sealDrafts(personId, key)
    await waitingStorage.list(personId)
  } catch {
    // No room, or no database: what is there is what was there.
  }
}
/** What they saw goes from this device, and the key with it. */
export async function forgetWork(personId: string): Promise<void> {
  for (const name of keysWith('circuitry-network-')) localStorage.removeItem(name)
  await window.caches?.delete('pictures').catch(() => false)
  await forgetSeen(personId)
}
/** Whoever was here last, and is not logged in any more: their login ended elsewhere, or somebody else came in. */
export async function leftBefore(personId: string | null): Promise<void> {
  const before = await keptValue<{ personId: string }>('viewer')
  if (!before || before.personId === personId) return
  await sealWork(before.personId)
  await forgetWork(before.personId)
}
