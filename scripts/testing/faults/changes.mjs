// Put back to a second between two backups: what was answered before it is there, what came after it is not, and nothing is half.
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { connectTo, makeBackup } from '../../lib/backup.mjs'
import { changesAfter, changesOf, keptChanges, lookThrough, momentOf } from '../../lib/changes.mjs'
import { root, runNode, sleep, stateDir } from '../../lib/host.mjs'
import { asRoot, startMariadb } from '../../lib/mariadb.mjs'
import { give, jobsOf, logIn, randomEnvelope } from './crew.mjs'
import { murder } from './murder.mjs'
import { verify } from './verify.mjs'

const passphrase = 'lantern-kelp-tide-9'
const keysOf = ({ env }) => ({ secretKey: env.CIRCUITRY_SECRET_KEY, sessionPassword: env.NUXT_SESSION_PASSWORD })
const backUp = (database, folder) =>
  makeBackup({
    ...{ env: database.env, keys: keysOf(database), kind: 'empty', folder, keysFolder: join(folder, 'keys') },
    passphrase,
  })
/** By the command, as somebody at the host does it. */
const restore = (place, made, options) =>
  runNode([join(root, 'scripts', 'restore.mjs'), `--place=${place}`, `--from=${made.file}`, `--keys=${made.keysFile}`, ...options], {
    CIRCUITRY_BACKUP_PASSPHRASE: passphrase,
    CIRCUITRY_DB_PORT: '',
  })
/** A second on which nothing is done. */
async function quietSecond() {
  await sleep(1200)
  const at = new Date(Math.ceil(Date.now() / 1000) * 1000)
  await sleep(at - Date.now() + 1200)
  return at.toISOString()
}
async function refusedWith(words, work) {
  try {
    await work()
  } catch (error) {
    return words.test(error.message) ? null : `said ${error.message} where ${words} was expected`
  }
  return `was taken where ${words} was expected`
}

/** A shell that says nothing changes nothing; another place, or one that is gone, begins anew; 0 days keep none. */
function goesOnWhereItWas(folder) {
  const dir = mkdtempSync(join(folder, 'data-'))
  const [here, there] = [join(folder, 'one'), join(folder, 'two')]
  const folderIn = (env) => keptChanges(dir, changesOf(env, dir))[0]?.slice('--log-bin='.length) ?? null
  const first = folderIn({ CIRCUITRY_CHANGES: here, CIRCUITRY_CHANGES_DAYS: '60' })
  const silent = folderIn({})
  const { days } = changesOf({}, dir)
  const moved = folderIn({ CIRCUITRY_CHANGES: there })
  const backAgain = folderIn({ CIRCUITRY_CHANGES: here })
  rmSync(here, { recursive: true })
  const gone = folderIn({})
  const none = folderIn({ CIRCUITRY_CHANGES_DAYS: '0' })
  return [
    silent === first && days === 60 ? null : 'a shell that says nothing of changes keeps them elsewhere',
    moved.startsWith(there) ? null : 'another place is not taken',
    backAgain.startsWith(here) && backAgain !== first ? null : 'numbers go on after a gap',
    gone.startsWith(here) && gone !== backAgain ? null : 'a folder that is gone is gone on with',
    none === null ? null : 'none are wanted, and some are kept',
  ]
}

/** Only the tables that putting back looks at, and rows that are hard to carry. */
export async function changesInSmall() {
  const [place, again] = ['test-changes', 'test-changes-back']
  for (const one of [place, again]) rmSync(join(stateDir, one), { recursive: true, force: true })
  const folder = mkdtempSync(join(tmpdir(), 'circuitry-changes-'))
  const wrong = []
  let database = await startMariadb(place, { fresh: true })
  const migration = readdirSync(join(root, 'server', 'database', 'migrations'))
    .sort()
    .at(-1)
    .replace('.ts', '')
  try {
    let connection = await connectTo(database.env)
    for (const statement of [
      'CREATE TABLE sequelize_meta (name VARCHAR(255) PRIMARY KEY)',
      'CREATE TABLE sessions (id INT PRIMARY KEY)',
      'CREATE TABLE feeds (company_id INT PRIMARY KEY, seq BIGINT)',
      'CREATE TABLE events (id INT PRIMARY KEY, stream_id INT, seq INT, received_at DATETIME(3), body LONGTEXT)',
    ])
      await connection.query(statement)
    await connection.query('INSERT INTO sequelize_meta VALUES (?)', [migration])
    let seq = 0
    // What people write: signs beyond one alphabet, quotes, bytes of a picture, a megabyte.
    const texts = ['“Möwe” 🗝️', "it's; -- no comment", '\\0\u0000\u001a', 'x'.repeat(1_000_000)]
    const write = async (count) => {
      for (let index = 0; index < count; index++) {
        seq++
        await connection.query('INSERT INTO events VALUES (?, 1, ?, UTC_TIMESTAMP(3), ?)', [seq, seq, texts[seq % texts.length]])
      }
    }
    await write(8)
    const made = await backUp(database, folder)
    await write(4)
    asRoot(database.root, 'FLUSH BINARY LOGS')
    await write(4)
    const until = await quietSecond()
    await write(2)
    await connection.query('DELETE FROM events WHERE seq > 3')
    await connection.end()
    await murder(database.pid)
    database = await startMariadb(place)
    connection = await connectTo(database.env)
    await connection.query('UPDATE events SET body = ? WHERE seq = 1', ['after the restart'])
    await connection.end()
    const changes = join(stateDir, place, 'changes')
    const read = async () => {
      const back = await startMariadb(again)
      const connected = await connectTo(back.env)
      const [rows] = await connected.query('SELECT seq, body FROM events ORDER BY seq')
      await connected.end()
      await back.stop()
      rmSync(join(stateDir, again), { recursive: true, force: true })
      return rows
    }
    const toSecond = await restore(again, made, [`--changes=${changes}`, `--until=${until}`])
    if (toSecond.status !== 0) wrong.push(`to a second: ${toSecond.stdout}${toSecond.stderr}`)
    else {
      const rows = await read()
      if (rows.length !== 16) wrong.push(`${rows.length} rows instead of 16 at the second before the mistake`)
      if (rows.some(({ body }, index) => body !== texts[(index + 1) % texts.length])) wrong.push('a text is another')
    }
    const toEnd = await restore(again, made, [`--changes=${changes}`])
    if (toEnd.status !== 0) wrong.push(`to the end: ${toEnd.stdout}${toEnd.stderr}`)
    else {
      const rows = await read()
      if (rows.length !== 3 || rows[0].body !== 'after the restart') wrong.push(`to the end: ${rows.length} rows, ${rows[0]?.body}`)
    }
    const alone = await restore(again, made, [])
    if (alone.status !== 0 || (await read()).length !== 8) wrong.push(`without its changes: ${alone.stdout}${alone.stderr}`)
    const sheet = { id: readdirSync(changes)[0], file: 'changes.000001' }
    const stranger = join(folder, 'strange')
    mkdirSync(join(stranger, sheet.id), { recursive: true })
    const hole = (name, to) => renameSync(join(changes, sheet.id, name), join(changes, sheet.id, to))
    const missing = async (name, words) => {
      hole(name, 'away')
      const fault = await refusedWith(words, () => changesAfter(changes, sheet))
      hole('away', name)
      return fault
    }
    for (const fault of [
      await refusedWith(/kept none/, () => changesAfter(changes, undefined)),
      await refusedWith(/holds no changes of this backup/, () => changesAfter(stranger, sheet)),
      await missing('changes.000001', /right after this backup are gone/),
      await missing('changes.000002', /a file is missing/),
      await refusedWith(/before this backup/, () => momentOf('2020-01-01T00:00Z', new Date().toISOString())),
      await refusedWith(/a moment such as/, () => momentOf('yesterday', new Date(0).toISOString())),
      await refusedWith(/for how many days/, () => changesOf({ CIRCUITRY_CHANGES_DAYS: 'all' }, folder)),
      ...goesOnWhereItWas(folder),
    ])
      if (fault) wrong.push(fault)
    // Cut in the middle of what was being written, turned by one bit, without its end, or another file altogether.
    const [first, , last] = changesAfter(changes, sheet)
    const spoilt = async (file, spoil, words) => {
      const bytes = readFileSync(file)
      writeFileSync(file, spoil(bytes))
      const fault = await refusedWith(words, () => lookThrough(changesAfter(changes, sheet), 4))
      writeFileSync(file, bytes)
      return fault
    }
    const turned = (bytes) => {
      const other = Buffer.from(bytes)
      other[bytes.length - 200] ^= 8
      return other
    }
    for (const fault of [
      await spoilt(first, turned, /cannot be read/),
      await spoilt(last, turned, /is damaged/),
      await spoilt(first, (bytes) => bytes.subarray(0, -100), /cannot be read/),
      await spoilt(last, () => 'no changes at all', /cannot be read/),
    ])
      if (fault) wrong.push(fault)
    const bytes = readFileSync(last)
    writeFileSync(last, bytes.subarray(0, -5))
    const torn = await restore(again, made, [`--changes=${changes}`])
    if (torn.status !== 0 || (await read())[0]?.body === 'after the restart') wrong.push(`the power went: ${torn.stdout}${torn.stderr}`)
    writeFileSync(last, turned(bytes))
    const broken = await restore(again, made, [`--changes=${changes}`])
    if (broken.status === 0 || !/is damaged/.test(broken.stderr)) wrong.push(`a damaged file: ${broken.stdout}${broken.stderr}`)
    const before = await restore(again, made, [`--changes=${changes}`, `--until=${until}`])
    if (before.status !== 0 || (await read()).length !== 16) wrong.push(`before a damaged file: ${before.stdout}${before.stderr}`)
    if (readdirSync(stateDir).some((one) => one.startsWith(again))) wrong.push('what could not be put back is left lying')
  } finally {
    await database.stop()
    for (const one of [place, again]) rmSync(join(stateDir, one), { recursive: true, force: true })
    rmSync(folder, { recursive: true, force: true })
  }
  return { tried: 28, survived: 28 - wrong.length, wrong }
}

/** The same with a crew at work: what was answered before the second is there, entry by entry, and nothing of after it. */
export async function putBackToTheSecond(urls, database) {
  const again = 'faults-back'
  rmSync(join(stateDir, again), { recursive: true, force: true })
  const folder = mkdtempSync(join(tmpdir(), 'circuitry-second-'))
  const people = await logIn(urls[0])
  const jobs = await jobsOf(urls[0], people[3], ['Heron House', 'Lock Cottage', 'Tide House'])
  const answered = []
  const work = async (count) => {
    const todo = Array.from({ length: count }, (_, index) => randomEnvelope(jobs[index % jobs.length]))
    const worker = async () => {
      for (let envelope = todo.pop(); envelope; envelope = todo.pop())
        answered.push({ envelope, outcome: (await give(urls, people[3], envelope)).outcome })
    }
    await Promise.all(Array.from({ length: 12 }, worker))
  }
  const wrong = []
  try {
    const [made] = await Promise.all([sleep(300).then(() => backUp(database, folder)), work(200)])
    asRoot(database.root, 'FLUSH BINARY LOGS')
    await work(200)
    const until = await quietSecond()
    const before = [...answered]
    await work(100)
    const source = await connectTo(database.env)
    const put = await restore(again, made, [`--changes=${join(database.dir, 'changes')}`, `--until=${until}`])
    if (put.status !== 0) return { tried: before.length, survived: 0, lost: before.length, wrong: [put.stdout + put.stderr] }
    const back = await startMariadb(again)
    const connection = await connectTo(back.env)
    const { survived, lost, wrong: found } = await verify(connection, before)
    // Putting back moves the feed on, so that every page is fetched anew.
    wrong.push(...found.filter((one) => !one.startsWith('feed of')))
    const late = answered.slice(before.length).map(({ outcome }) => outcome.commandId)
    const [[{ count }]] = await connection.query('SELECT COUNT(*) AS count FROM commands WHERE id IN (?)', [late])
    if (Number(count)) wrong.push(`${count} commands of after the second are there`)
    const entries = 'SELECT stream_id, seq, MD5(CONCAT_WS(0x00, id, command_id, type, payload)) AS sum FROM events ORDER BY stream_id, seq'
    const [[theirs], [ours]] = [await source.query(entries), await connection.query(entries)]
    const there = new Map(theirs.map(({ stream_id, seq, sum }) => [`${stream_id} ${seq}`, sum]))
    const other = ours.filter(({ stream_id, seq, sum }) => there.get(`${stream_id} ${seq}`) !== sum)
    if (other.length) wrong.push(`${other.length} entries are others`)
    await Promise.all([source.end(), connection.end()])
    await back.stop()
    return { tried: before.length, survived, lost, wrong, note: `${ours.length} entries compared` }
  } finally {
    rmSync(join(stateDir, again), { recursive: true, force: true })
    rmSync(folder, { recursive: true, force: true })
  }
}
