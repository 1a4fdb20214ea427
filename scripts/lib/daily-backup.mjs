// A backup each day at one time by the host’s clock, made by the program itself while it runs.
import { existsSync } from 'node:fs'
import { resolve } from 'node:path'
import { keepNewest, keysFileOf, makeBackup, newestBackup } from './backup.mjs'
import { sleep, Stop } from './host.mjs'
import { plainPassphrase } from './passphrase.mjs'

/** What the environment says of daily backups; null: nothing. @throws Stop with a sentence where it makes no sense */
export function dailyBackupOf(env) {
  const { CIRCUITRY_BACKUP: folder, CIRCUITRY_BACKUP_KEYS: keysFolder, CIRCUITRY_BACKUP_PASSPHRASE: passphrase } = env
  if (!folder) return null
  if (!keysFolder) throw new Stop('CIRCUITRY_BACKUP_KEYS says where the sealed keys of the backups go: not beside the backups.')
  if (resolve(folder) === resolve(keysFolder))
    throw new Stop('CIRCUITRY_BACKUP and CIRCUITRY_BACKUP_KEYS are one folder. Whoever has both can read every code: take two places.')
  const at = /^([01]?\d|2[0-3]):([0-5]\d)$/.exec(env.CIRCUITRY_BACKUP_AT ?? '02:15')
  if (!at) throw new Stop('CIRCUITRY_BACKUP_AT is a time of the day such as 02:15.')
  const keep = env.CIRCUITRY_BACKUP_KEEP ?? '30'
  if (!/^[1-9]\d{0,3}$/.test(keep)) throw new Stop('CIRCUITRY_BACKUP_KEEP says how many stay: 1 and more.')
  if (passphrase && plainPassphrase(passphrase).length < 12)
    throw new Stop('CIRCUITRY_BACKUP_PASSPHRASE has twelve letters and digits and more.')
  return {
    ...{ folder: resolve(folder), keysFolder: resolve(keysFolder), keep: Number(keep), passphrase: passphrase || null },
    ...{ hour: Number(at[1]), minute: Number(at[2]) },
  }
}

const [minute, day] = [60_000, 24 * 3_600_000]
/** One that failed is tried again so soon; one that was missed is made so soon after the start. Choices of ours, no source. */
const [again, soon] = [15 * minute, 2 * minute]

/** When the next one is due. @param newest when the newest was made; null: there is none */
export function nextBackup(now, { hour, minute: past }, newest) {
  // An hour’s grace: the day on which clocks change has 25.
  if (newest === null || now - newest > day + 3_600_000) return new Date(now.getTime() + soon)
  const next = new Date(now)
  next.setHours(hour, past, 0, 0)
  if (next <= now) next.setDate(next.getDate() + 1)
  return next
}

/**
 * Makes them until it is stopped. What goes wrong is said and tried again; nothing else stops for it.
 * @param say takes a line for whoever reads the log: never a passphrase
 * @returns stop(): waits a little for one that is being made
 */
export function backUpDaily({ settings, env, keys, kind, say, make = makeBackup, clock = () => new Date(), wait = setTimeout }) {
  let timer = null
  let making = Promise.resolve()
  let stopped = false
  async function once() {
    // A passphrase that is drawn has to be read by somebody: a log is the wrong place for it.
    if (!settings.passphrase && !existsSync(keysFileOf(settings.keysFolder, keys)))
      throw new Stop(
        `No backup is made by itself yet: run  npm run backup -- --to=${settings.folder} --keys=${settings.keysFolder}  once. It shows the passphrase of the keys.`,
      )
    const { file } = await make({ env, keys, kind, ...settings, at: clock() })
    const removed = keepNewest(settings.folder, settings.keep)
    say(`Backup: ${file}${removed.length ? `; removed ${removed.join(', ')}` : ''}`)
  }
  function plan(ms) {
    if (stopped) return
    timer = wait(() => {
      making = once().then(
        () => plan(nextBackup(clock(), settings, clock()) - clock()),
        (error) => {
          say(`There is no new backup: ${error.message} The next try is in 15 minutes.`)
          plan(again)
        },
      )
    }, ms)
    timer?.unref?.()
  }
  plan(nextBackup(clock(), settings, newestBackup(settings.folder)?.madeAt ?? null) - clock())
  return async () => {
    stopped = true
    clearTimeout(timer)
    // One that takes long is not waited for: it ends with its database, and what it wrote bears no name of a backup.
    await Promise.race([making, sleep(10_000)])
  }
}
