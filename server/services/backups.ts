import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import type { BackupState } from '../../core/protocol'
import type { Viewer } from './access'

/** A sheet of a backup, beside it: one that is half written has none under this name. */
const sheet = /^circuitry-\d{8}-\d{6}\.json$/
/** A day, and time enough for one that took long, or was tried again. A choice of ours, no source. */
const lateAfterMs = 30 * 3_600_000
/** So long what was read holds: everybody asks who they are, often. */
const holdsMs = 60_000

/** A disk of the network that has gone keeps no lead from logging in. */
const patienceMs = 1000

let read: { folder: string; at: number; madeAt: Promise<Date | null> } | null = null

async function newestIn(folder: string): Promise<Date | null> {
  const names = (await readdir(folder).catch(() => [])).filter((name) => sheet.test(name)).sort()
  for (const name of names.reverse()) {
    const said: unknown = await readFile(join(folder, name), 'utf8')
      .then(JSON.parse)
      .catch(() => null)
    const madeAt = new Date(String((said as { madeAt?: unknown } | null)?.madeAt))
    if (!Number.isNaN(madeAt.getTime())) return madeAt
  }
  return null
}

/** The newest backup that the program made by itself, for a lead; for others null. */
export async function backupFor(viewer: Pick<Viewer, 'role'>, now = new Date()): Promise<BackupState | null> {
  if (viewer.role !== 'lead') return null
  const folder = process.env.CIRCUITRY_BACKUP
  if (!folder) return { daily: false, madeAt: null, late: false }
  if (read?.folder !== folder || now.getTime() - read.at > holdsMs) read = { folder, at: now.getTime(), madeAt: newestIn(folder) }
  const madeAt = await Promise.race([read.madeAt, pause(patienceMs, null, { ref: false })])
  return {
    daily: true,
    madeAt: madeAt?.toISOString() ?? null,
    // A server that has just begun makes its first one in a moment.
    late: madeAt === null ? process.uptime() * 1000 > 3_600_000 : now.getTime() - madeAt.getTime() > lateAfterMs,
  }
}
