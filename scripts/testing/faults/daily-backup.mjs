// Backups that the program makes by itself: at their time, again where one failed, soon where one was missed, and never a passphrase in a log.
import { randomBytes } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { keysFileOf, makeBackup, newestBackup } from '../../lib/backup.mjs'
import { backUpDaily, dailyBackupOf, nextBackup } from '../../lib/daily-backup.mjs'

const refused = (env) => {
  try {
    dailyBackupOf(env)
    return false
  } catch (error) {
    return /[.]$/.test(error.message)
  }
}

export async function backedUpEachDay(_urls, env) {
  const folder = mkdtempSync(join(tmpdir(), 'circuitry-daily-'))
  const wrong = []
  const agree = (good, what) => good || wrong.push(what)
  try {
    const [to, keysTo] = [join(folder, 'backups'), join(folder, 'keys')]
    const given = { CIRCUITRY_BACKUP: to, CIRCUITRY_BACKUP_KEYS: keysTo }
    agree(dailyBackupOf({}) === null, 'it is on without being asked for')
    for (const bad of [
      { CIRCUITRY_BACKUP: to },
      { CIRCUITRY_BACKUP: to, CIRCUITRY_BACKUP_KEYS: `${to}/` },
      { ...given, CIRCUITRY_BACKUP_AT: '25:00' },
      { ...given, CIRCUITRY_BACKUP_KEEP: '0' },
      { ...given, CIRCUITRY_BACKUP_PASSPHRASE: 'short' },
    ])
      agree(refused(bad), `taken: ${JSON.stringify(bad)}`)
    const settings = dailyBackupOf({ ...given, CIRCUITRY_BACKUP_AT: '2:15', CIRCUITRY_BACKUP_KEEP: '2' })
    // The host's own clock, whatever its zone.
    const at = (day, hour, minute = 0) => new Date(2026, 10, day, hour, minute)
    const due = (now, newest) => nextBackup(now, settings, newest).getTime()
    agree(due(at(30, 1), at(29, 2, 15)) === at(30, 2, 15).getTime(), 'not at its time')
    agree(due(at(30, 2, 15), at(30, 2, 15)) === at(31, 2, 15).getTime(), 'twice in one night')
    agree(due(at(30, 9), at(28, 2, 15)) < at(30, 9, 5).getTime(), 'one that was missed waits for the night')
    agree(due(at(30, 9), null) < at(30, 9, 5).getTime(), 'the first one waits for the night')

    const keys = { secretKey: randomBytes(32).toString('base64'), sessionPassword: 'x' }
    const log = []
    const waits = []
    let now = at(30, 9)
    const turn = async () => {
      const { work, ms } = waits.shift()
      now = new Date(now.getTime() + ms)
      const before = waits.length
      work()
      for (let waited = 0; waits.length === before && waited < 600; waited++) await new Promise((resolve) => setTimeout(resolve, 50))
      return ms
    }
    const stop = backUpDaily({
      ...{ settings, env, keys, kind: 'demo', say: (line) => log.push(line), clock: () => now },
      wait: (work, ms) => void waits.push({ work, ms }),
    })
    await turn()
    agree(/run {2}npm run backup/.test(log[0] ?? '') && !existsSync(to), `nobody is told to seal the keys: ${log[0]}`)
    // Somebody does it by hand, and writes the passphrase down.
    const byHand = await makeBackup({ env, keys, kind: 'demo', folder: to, keysFolder: keysTo, at: new Date(now.getTime() - 1000) })
    agree((await turn()) === 15 * 60_000 && /^Backup: /.test(log[1] ?? ''), `not tried again: ${log[1]}`)
    agree(readdirSync(to).filter((name) => name.endsWith('.sql.gz')).length === 2, 'it was not made')
    await turn()
    agree(now.getHours() === 2 && now.getMinutes() === 15 && now.getDate() === 1, `the next is not in the night: ${now}`)
    const left = readdirSync(to).filter((name) => name.endsWith('.sql.gz'))
    agree(left.length === 2 && !left.includes(byHand.file.split('/').at(-1)), `too many stay: ${left}`)
    writeFileSync(join(to, 'circuitry-20991231-000000.sql.gz'), 'no sheet')
    writeFileSync(join(to, 'circuitry-20991230-000000.sql.gz'), 'a broken one')
    writeFileSync(join(to, 'circuitry-20991230-000000.json'), '{"format"')
    agree(newestBackup(to).file.endsWith(left.sort().at(-1)), 'a backup that cannot be read stops the start, or counts')
    // A file where the folder was: said, and nothing stops.
    rmSync(to, { recursive: true })
    writeFileSync(to, '')
    await turn()
    agree(/^There is no new backup: /.test(log[3] ?? ''), `a failure is not said: ${log[3]}`)
    await stop()
    agree(!log.some((line) => line.includes(byHand.passphrase)), 'the passphrase stands in the log')
    agree(existsSync(keysFileOf(keysTo, keys)), 'the keys are gone')
    return { tried: 12, survived: 12 - wrong.length, lost: 0, wrong }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
