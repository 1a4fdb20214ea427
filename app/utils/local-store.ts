import { openDB, type IDBPDatabase } from 'idb'
import type { CommandEnvelope } from '../../core/stream'
import type { QueuedCommand } from '../../core/stream/client'
import type { JobPage } from '../../core/protocol'
import { makeOutboxStore, writeThrough, type Sealing } from './indexed-db-outbox'
import { api } from './api'
import { canSeal, importKey } from './sealing'

/** Something a person did without network, kept on this device until the server has taken it. */
export interface KeptEntry extends QueuedCommand {
  kind: 'command' | 'photo'
  /** What goes out, as it was when the person did it. */
  envelope: CommandEnvelope | null
  photo: { id: string; jobId: string; blob: Blob } | null
  label: string
  where: string
  /** What this device's clock said. Only the difference to now is ever used. */
  keptAt: number
}
/** A job as this device last saw it, for opening without network. */
export interface KeptJob {
  key: string
  personId: string
  jobId: string
  page: JobPage
  savedAt: string
}
export interface KeptValue {
  key: string
  value: unknown
}

/** Devices in use have the store under this number. */
const version = 10
let opened: Promise<IDBPDatabase> | null = null
/** This device's own database: what waits (`entries`), jobs for a start without network, and other values. */
export function localStore(): Promise<IDBPDatabase> {
  opened ??= openStore()
  opened.catch(() => (opened = null))
  return opened
}
async function openStore() {
  const base = await openDB('circuitry', version, {
    upgrade(made) {
      makeOutboxStore(made)
      made.createObjectStore('jobs', { keyPath: 'key' }).createIndex('personId', 'personId')
      made.createObjectStore('values', { keyPath: 'key' })
    },
    // The browser closed it, or a newer program in another window wants to change it: opened again at the next use.
    blocking: () => {
      base.close()
      opened = null
    },
    terminated: () => (opened = null),
  })
  // Asked once: a browser that grants it does not throw this away when it needs room.
  void navigator.storage?.persist?.().catch(() => false)
  return base
}

export const isFull = (error: unknown) => error instanceof Error && error.name === 'QuotaExceededError'

/** A job for a start without network; a device without room does not have it then. */
export async function keepJob(job: Omit<KeptJob, 'key' | 'savedAt'>): Promise<void> {
  const kept: KeptJob = { ...job, key: `${job.personId} ${job.jobId}`, savedAt: new Date().toISOString() }
  await localStore()
    .then((base) => writeThrough(base, 'jobs', (to) => to.put(kept)))
    .catch(() => undefined)
}
export async function keptJob(personId: string, jobId: string): Promise<KeptJob | undefined> {
  return localStore()
    .then((base) => base.get('jobs', `${personId} ${jobId}`) as Promise<KeptJob | undefined>)
    .catch(() => undefined)
}
/** Jobs that this device keeps, whoever saw them. */
export async function keptJobIds(): Promise<string[]> {
  try {
    return [...new Set(((await (await localStore()).getAllKeys('jobs')) as string[]).map((key) => key.split(' ')[1]!))]
  } catch {
    return []
  }
}
/** These are not kept any more, for nobody. */
export async function forgetJobs(jobIds: string[]): Promise<void> {
  if (jobIds.length === 0) return
  for (const key of Object.keys(localStorage)) if (jobIds.some((id) => key.includes(id))) localStorage.removeItem(key)
  try {
    const base = await localStore()
    const keys = ((await base.getAllKeys('jobs')) as string[]).filter((key) => jobIds.includes(key.split(' ')[1]!))
    await writeThrough(base, 'jobs', (to) => Promise.all(keys.map((key) => to.delete(key))))
    // What was seen of their visits bears no id of the job; it is asked for again where it is needed.
    const values = ((await base.getAllKeys('values')) as string[]).filter(
      (key) => key.startsWith('facts of ') || jobIds.some((id) => key.includes(id)),
    )
    await writeThrough(base, 'values', (to) => Promise.all(values.map((key) => to.delete(key))))
  } catch {
    // Nothing was kept here.
  }
}

/** What somebody saw goes, and their key; what they did and was not sent stays under their name, sealed. */
export async function forgetSeen(personId: string): Promise<void> {
  try {
    const base = await localStore()
    await writeThrough(base, 'jobs', async (jobs) => {
      for (const key of await jobs.index('personId').getAllKeys(personId)) await jobs.delete(key)
    })
    await writeThrough(base, 'values', (values) => values.clear())
  } catch {
    // Nothing was kept here.
  }
}

const sealName = (personId: string) => `seal ${personId}`
const keys = new Map<string, CryptoKey>()
async function keyHere(personId: string): Promise<CryptoKey | null> {
  const known = keys.get(personId)
  if (known) return known
  try {
    const kept = (await (await localStore()).get('values', sealName(personId))) as KeptValue | undefined
    if (!kept) return null
    keys.set(personId, kept.value as CryptoKey)
    return kept.value as CryptoKey
  } catch {
    return null
  }
}
/**
 * The key of whoever is logged in: from this device, else with their login from the server, and kept here until they leave.
 * null: there is none, or this browser seals nothing (a page without TLS).
 */
export async function ownKey(personId: string): Promise<CryptoKey | null> {
  const here = await keyHere(personId)
  if (here || !canSeal()) return here
  const answer = await api('GET /api/me/device-key')
  if (!answer.ok || answer.value.personId !== personId) return null
  const key = await importKey(answer.value.key)
  keys.set(personId, key)
  await localStore()
    .then((base) => writeThrough(base, 'values', (to) => to.put({ key: sealName(personId), value: key })))
    .catch(() => undefined)
  return key
}
/** How what waits here is sealed. */
export const waitingSealing: Sealing<KeptEntry> = {
  here: keyHere,
  anywhere: ownKey,
  lost: ({ key, personId }) => ({
    ...{ key, personId, kind: 'command', envelope: null, photo: null, makes: [], state: 'refused', keptAt: 0 },
    ...{ label: 'sealed entry', where: 'this device' },
    refusal: {
      code: 'sealLost',
      reasons: ['It was sealed here for you, and the key of the server is another one now: nobody can open it.'],
      toYes: ['Record again what you did here without network, then dismiss this.'],
    },
  }),
}
/** How many entries of each person wait on this device. */
export async function waitingHere(): Promise<Map<string, number>> {
  const counts = new Map<string, number>()
  try {
    const index = (await localStore()).transaction('entries').store.index('personId')
    for (let at = await index.openKeyCursor(); at; at = await at.continue()) {
      const personId = at.key as string
      counts.set(personId, (counts.get(personId) ?? 0) + 1)
    }
  } catch {
    // Nothing is kept here.
  }
  return counts
}

/** Everything of people whose accounts are closed, what waited to be sent as well. */
export async function forgetPeople(personIds: string[]): Promise<void> {
  if (personIds.length === 0) return
  try {
    const base = await localStore()
    for (const store of ['entries', 'jobs'] as const)
      for (const personId of personIds) {
        const keys = await base.getAllKeysFromIndex(store, 'personId', personId)
        if (keys.length) await writeThrough(base, store, (to) => Promise.all(keys.map((key) => to.delete(key as string))))
      }
  } catch {
    // Nothing was kept here.
  }
}

/** Once the first page stands: what only keeps things for later does not delay it. */
let pageStands: () => void = () => undefined
export const firstPageStands = new Promise<void>((resolve) => (pageStands = resolve))
export function firstPageShown(): void {
  setTimeout(pageStands, 1500)
}

/** Keeps a value for a later start without network. A device without room simply does not have it then. */
export async function keepValue(key: string, value: unknown): Promise<void> {
  await firstPageStands
  try {
    const kept: KeptValue = { key, value: JSON.parse(JSON.stringify(value)) }
    await writeThrough(await localStore(), 'values', (to) => to.put(kept))
  } catch {
    // Read again from the server next time.
  }
}
export async function keptValue<T>(key: string): Promise<T | null> {
  try {
    const kept = (await (await localStore()).get('values', key)) as KeptValue | undefined
    return (kept?.value as T | undefined) ?? null
  } catch {
    return null
  }
}
