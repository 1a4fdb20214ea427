// What changes in the database, as it is written: with a backup and these files it is put back to any second after the backup.
import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { basename, dirname, join, resolve } from 'node:path'
import { createInterface } from 'node:readline'
import { clientOf } from './client.mjs'
import { say, Stop } from './host.mjs'

const name = 'changes'
const pattern = /^changes\.(\d{6,})$/
const idFile = 'id'
const daySeconds = 24 * 3600
/** Files of so many days stay. A choice of ours: with a backup each night, any second of two weeks. */
const usualDays = 14

/** What a data directory remembers of them: { base, days, id }; a base of null lies in it. */
const memoryOf = (dir) => join(dir, 'changes.json')
const remembered = (dir) => (existsSync(memoryOf(dir)) ? JSON.parse(readFileSync(memoryOf(dir), 'utf8')) : null)

/**
 * Where and for how long they are kept: as the environment says; where it says nothing, as before, so that a command given in
 * another shell changes nothing.
 * @returns { base, days } @throws Stop where it makes no sense
 */
export function changesOf({ CIRCUITRY_CHANGES, CIRCUITRY_CHANGES_DAYS }, dir) {
  const before = remembered(dir)
  const days = CIRCUITRY_CHANGES_DAYS ?? String(before?.days ?? usualDays)
  if (!/^\d{1,3}$/.test(days)) throw new Stop('CIRCUITRY_CHANGES_DAYS says for how many days changes are kept: 0 keeps none.')
  return { base: CIRCUITRY_CHANGES ? resolve(CIRCUITRY_CHANGES) : (before?.base ?? null), days: Number(days) }
}

/**
 * Options of a database server that keeps its changes in a folder of its own. A data directory goes on in the folder it had; where
 * that is gone, or another place was chosen, in a new one: numbers of one never continue those of another.
 */
export function keptChanges(dir, { base, days }) {
  const before = remembered(dir)
  const folderOf = (id) => join(base ?? join(dir, name), id)
  const goesOn = before?.id && before.base === base && existsSync(join(folderOf(before.id), idFile))
  const id = !days ? null : goesOn ? before.id : randomBytes(8).toString('hex')
  if (id && !goesOn) {
    mkdirSync(folderOf(id), { recursive: true, mode: 0o700 })
    writeFileSync(join(folderOf(id), idFile), id, { mode: 0o600 })
    if (before?.id)
      say(`What changes is kept anew from now on, in ${folderOf(id)}: with what was kept before nothing goes on. Make a backup.`)
  }
  writeFileSync(memoryOf(dir), JSON.stringify({ base, days, id }), { mode: 0o600 })
  if (!id) return []
  return [
    ...[`--log-bin=${join(folderOf(id), name)}`, '--server-id=1', '--binlog-format=ROW', '--binlog-row-image=MINIMAL', '--sync-binlog=1'],
    `--binlog-expire-logs-seconds=${days * daySeconds}`,
  ]
}

/** Which changes a database keeps on this host. @returns their folder's id; null: none, or of a server elsewhere */
export async function changesKept(connection) {
  const [[{ on, path }]] = await connection.query('SELECT @@log_bin AS `on`, @@log_bin_basename AS path')
  const file = path ? join(dirname(path), idFile) : null
  return Number(on) && file && basename(path) === name && existsSync(file) ? readFileSync(file, 'utf8') : null
}

/** Of the head of a dump: from where on its database's changes are not in it. @returns { file, position } or null */
export function placeIn(head) {
  const found = /CHANGE MASTER TO MASTER_LOG_FILE='(changes\.\d{6,})', MASTER_LOG_POS=(\d+)/.exec(head)
  return found && { file: found[1], position: Number(found[2]) }
}

/**
 * The files that go on where a backup ended, in their order.
 * @param changes of the backup's sheet
 * @throws Stop where they are not there, or one between them is missing
 */
export function changesAfter(base, changes) {
  if (!changes) throw new Stop('This backup does not say where its changes go on: its database kept none. Nothing was changed.')
  const folder = join(base, changes.id)
  if (!existsSync(join(folder, idFile)))
    throw new Stop(`${base} holds no changes of this backup’s database: a folder ${changes.id} was expected in it. Nothing was changed.`)
  const number = (file) => Number(pattern.exec(file)[1])
  const first = number(changes.file)
  const files = readdirSync(folder)
    .filter((one) => pattern.test(one) && number(one) >= first)
    .sort((a, b) => number(a) - number(b))
  if (files[0] !== changes.file)
    throw new Stop(
      `${join(folder, changes.file)} is missing: the changes right after this backup are gone. Take a newer backup. Nothing was changed.`,
    )
  const gap = files.findIndex((one, index) => number(one) !== first + index)
  if (gap > 0) throw new Stop(`Between ${files[gap - 1]} and ${files[gap]} in ${folder} a file is missing. Nothing was changed.`)
  return files.map((one) => join(folder, one))
}

/** @returns the moment that is said; null: none, or one that is still to come @throws Stop where it is none, or before the backup */
export function momentOf(words, madeAt, now = new Date()) {
  if (!words) return null
  const at = new Date(words)
  if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d/.test(words) || Number.isNaN(at.getTime()))
    throw new Stop('--until is a moment such as 2026-11-30T14:02 by this host’s clock, or 2026-11-30T14:02:00Z. Nothing was changed.')
  if (at < new Date(madeAt))
    throw new Stop(`${words} is before this backup, which is of ${madeAt}. Take an older one. Nothing was changed.`)
  return at > now ? null : at
}

/** The database's own reader of such files, which takes moments by the clock of its process. */
const readerOf = (files, { position, at }, ...more) =>
  clientOf(
    'mariadb-binlog',
    [
      ...['--no-defaults', '--verify-binlog-checksum', ...more],
      ...(position ? [`--start-position=${position}`] : []),
      ...(at ? [`--stop-datetime=${at.toISOString().slice(0, 19).replace('T', ' ')}`] : []),
      ...files,
    ],
    { TZ: 'UTC' },
  )
/** What a file of changes says of itself: where it goes on, how far it is whole, and what is wrong with it. */
async function readThrough(file, range) {
  const { child, ended } = readerOf([file], range)
  let [begun, whole, goesOnAfter] = [null, null, null]
  for await (const line of createInterface({ input: child.stdout })) {
    const before = /\tGtid list \[([\d-]*)/.exec(line)
    if (before) goesOnAfter ??= before[1]
    const begins = /\tGTID (\d+-\d+-\d+)/.exec(line)
    if (begins) begun = begins[1]
    if (/^COMMIT/.test(line) || (begins && line.includes(' ddl'))) whole = begun
  }
  const error = await ended.catch(({ message }) => {
    throw new Stop(`${file} cannot be read: ${message}. Nothing was changed.`)
  })
  return { whole, goesOnAfter, torn: /Event truncated/.test(error), damaged: /ERROR/.test(error) && !/Event truncated/.test(error) }
}
/**
 * Of a file that was not closed the reader leaves out what it cannot read and goes on with the next: what would be played then is a
 * record that nobody made. Such a file may end in the middle of what was written when the power went: nobody was answered that.
 * @throws Stop where a file is damaged, or lacks its end
 */
export async function lookThrough(files, position, at = null) {
  let last = null
  for (const [index, file] of files.entries()) {
    const now = await readThrough(file, { position: index === 0 ? position : null, at })
    if (now.damaged) throw new Stop(`${file} is damaged. With --until, a moment before that is reached all the same. Nothing was changed.`)
    if (last?.torn && last.whole !== null && now.goesOnAfter !== null && now.goesOnAfter !== last.whole)
      throw new Stop(`${files[index - 1]} lacks its end, and ${basename(file)} goes on after it. Nothing was changed.`)
    last = { ...now, whole: now.whole ?? last?.whole ?? null }
  }
}

/**
 * Plays changes into a database that a backup was put into: whole commands only, in their order.
 * @param at the first second that is left out; null: all
 * @param root how the database takes them: { socket, password }
 */
export async function playChanges({ files, position, at, database, root }) {
  await lookThrough(files, position, at)
  const reader = readerOf(files, { position, at }, '--disable-log-bin', `--database=${database}`)
  const writer = clientOf('mariadb', ['--no-defaults', `--socket=${root.socket}`, '-uroot', '--binary-mode'], { MYSQL_PWD: root.password })
  writer.child.stdout.resume()
  // Where one of them ends early the other is told so by its end, and the words of both are told.
  writer.child.stdin.on('error', () => undefined)
  reader.child.stdout.pipe(writer.child.stdin)
  const ends = await Promise.allSettled([reader.ended, writer.ended])
  const wrong = ends.flatMap(({ reason }) => (reason ? [reason.message] : []))
  if (wrong.length) throw new Stop(`The changes could not be played: ${wrong.join(' ').slice(0, 800)}`)
  say(`Played ${files.length === 1 ? 'one file' : `${files.length} files`} of changes.`)
}
