import type { Table } from 'dexie'
import type { CommandEnvelope } from '../../core/stream'
import type { Kept } from '../../core/stream/client'
import type { JobPage } from '../../core/protocol'

/** Something a person did without network, kept on this device until the server has taken it. */
export interface KeptEntry extends Kept {
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
export interface LocalStore {
  entries: Table<KeptEntry, number>
  jobs: Table<KeptJob, string>
  values: Table<KeptValue, string>
}

let opened: Promise<LocalStore> | null = null
/** This device's own store. Written through to the disk before it counts as stored. */
export function localStore(): Promise<LocalStore> {
  opened ??= import('dexie').then(async ({ Dexie }) => {
    const base = new Dexie('circuitry', { chromeTransactionDurability: 'strict' })
    base.version(1).stores({ entries: '++key, personId', jobs: 'key, personId', values: 'key' })
    await base.open()
    // Asked once: a browser that grants it does not throw this away when it needs room.
    void navigator.storage?.persist?.().catch(() => false)
    return base as unknown as LocalStore
  })
  opened.catch(() => (opened = null))
  return opened
}

export const isFull = (error: unknown) =>
  error instanceof Error && (error.name === 'QuotaExceededError' || (error as { inner?: Error }).inner?.name === 'QuotaExceededError')

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
    await (await localStore()).values.put({ key, value: JSON.parse(JSON.stringify(value)) })
  } catch {
    // Read again from the server next time.
  }
}
export async function keptValue<T>(key: string): Promise<T | null> {
  try {
    return ((await (await localStore()).values.get(key))?.value as T | undefined) ?? null
  } catch {
    return null
  }
}
