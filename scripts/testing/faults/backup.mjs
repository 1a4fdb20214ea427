// A backup made while people work, and put back: nothing that was answered before it is missing, nothing in it is half.
import { randomBytes } from 'node:crypto'
import { copyFileSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { connectTo, fillFrom, keepNewest, makeBackup, openKeys, readBackup } from '../../lib/backup.mjs'
import { freePort, root, runNode } from '../../lib/host.mjs'
import { startServer } from '../../lib/server.mjs'
import { get, give, jobsOf, logIn, logInAs, post, randomEnvelope } from './crew.mjs'

/** Every text of every table, for looking a name up in it. */
const everyText = `
const mysql = require('mysql2/promise')
const { CIRCUITRY_DB_HOST: host, CIRCUITRY_DB_PORT: port, CIRCUITRY_DB_USER: user, CIRCUITRY_DB_PASSWORD: password, CIRCUITRY_DB_NAME: database } = process.env
mysql.createConnection({ host, port: Number(port), user, password, database }).then(async (connection) => {
  const [tables] = await connection.query('SHOW TABLES')
  for (const table of tables.flatMap(Object.values)) console.log(JSON.stringify((await connection.query('SELECT * FROM ' + table))[0].map((row) => Object.values(row).filter((value) => !Buffer.isBuffer(value)))))
  await connection.end()
})`

/** Rows that nothing ever changes: what a backup holds of them is what was there. */
const neverChanged = ['events', 'commands', 'feed_entries', 'photos', 'secret_reads', 'companies', 'sequelize_meta']
const refusedAs = async (what, work) => {
  try {
    await work()
    return `${what}: was taken`
  } catch (error) {
    return error.name === 'Error' && /[.]$/.test(error.message) ? null : `${what}: ${error.stack}`
  }
}

export async function backedUpWhileTheyWork(urls, env) {
  const folder = mkdtempSync(join(tmpdir(), 'circuitry-backup-'))
  const keys = { secretKey: env.CIRCUITRY_SECRET_KEY, sessionPassword: env.NUXT_SESSION_PASSWORD }
  const people = await logIn(urls[0])
  const jobs = await jobsOf(urls[0], people[3], ['School studio 2', 'Quay Loft 4'])
  const todo = Array.from({ length: 120 }, (_, index) => randomEnvelope(jobs[index % 2]))
  const answered = []
  let before = []
  let made = null
  const backUp = async () => {
    before = [...answered]
    made = await makeBackup({ env, keys, kind: 'demo', folder: join(folder, 'backups'), keysFolder: join(folder, 'keys') })
  }
  let backing = null
  const worker = async () => {
    for (let envelope = todo.pop(); envelope; envelope = todo.pop()) {
      answered.push((await give(urls, people[3], envelope)).outcome)
      if (answered.length >= 40) backing ??= backUp()
    }
  }
  await Promise.all(Array.from({ length: 8 }, worker))
  await backing
  const wrong = []
  const agree = (good, what) => good || wrong.push(what)
  const again = { ...env, CIRCUITRY_DB_NAME: `${env.CIRCUITRY_DB_NAME}_again` }
  const connection = await connectTo(env)
  const query = async (sql, values = []) => (await connection.query(sql, values))[0]
  const known = `\`${env.CIRCUITRY_DB_NAME}\``
  const back = `\`${again.CIRCUITRY_DB_NAME}\``
  let server = null
  try {
    for (const fault of [
      await refusedAs('another passphrase', () => openKeys(made.keysFile, 'AAAA-AAAA-AAAA-AAAA')),
      await refusedAs('a backup as keys', () => openKeys(made.file, made.passphrase)),
      await refusedAs('keys of another database', () => readBackup(made.file, { secretKey: randomBytes(32).toString('base64') })),
      await refusedAs('a file that is not there', () => readBackup(join(folder, 'circuitry-20200101-000000.sql.gz'), keys)),
      await refusedAs('a backup that lost its end', () => {
        const cut = join(folder, basename(made.file))
        writeFileSync(cut, readFileSync(made.file).subarray(0, -100))
        copyFileSync(made.file.replace('.sql.gz', '.json'), cut.replace('.sql.gz', '.json'))
        return readBackup(cut, keys)
      }),
      await refusedAs('a backup of a newer program', () => {
        const newer = join(folder, basename(made.file))
        copyFileSync(made.file, newer)
        const sheet = JSON.parse(readFileSync(made.file.replace('.sql.gz', '.json'), 'utf8'))
        writeFileSync(newer.replace('.sql.gz', '.json'), JSON.stringify({ ...sheet, migration: '9999-tomorrow' }))
        return readBackup(newer, keys)
      }),
    ])
      if (fault) wrong.push(fault)
    const opened = openKeys(made.keysFile, ` ${made.passphrase.toLowerCase()} `)
    agree(opened.secretKey === keys.secretKey && opened.sessionPassword === keys.sessionPassword, 'the keys are others')
    for (const path of readdirSync(folder, { recursive: true, withFileTypes: true }).filter((one) => one.isFile()))
      agree(!readFileSync(join(path.parentPath, path.name)).includes(keys.secretKey), `${path.name} holds the key as it is`)
    await query(`DROP DATABASE IF EXISTS ${back}`)
    await query(`CREATE DATABASE ${back} CHARACTER SET utf8mb4`)
    const found = await fillFrom(made.file, await readBackup(made.file, opened), again)
    for (const table of neverChanged) {
      const [row] = await query(
        `SELECT COUNT(*) AS count FROM (SELECT * FROM ${back}.${table} EXCEPT SELECT * FROM ${known}.${table}) AS other`,
      )
      agree(Number(row.count) === 0, `${row.count} rows of ${table} are others`)
    }
    const ids = before.map(({ commandId }) => commandId)
    const [{ count }] = await query(`SELECT COUNT(*) AS count FROM ${back}.commands WHERE id IN (?)`, [ids])
    agree(Number(count) === ids.length, `${ids.length - Number(count)} of ${ids.length} answered before it are missing`)
    const halves = await query(
      `SELECT s.id FROM ${back}.streams s JOIN ${back}.events e ON e.stream_id = s.id GROUP BY s.id, s.seq HAVING COUNT(*) <> s.seq OR MAX(e.seq) <> s.seq`,
    )
    agree(halves.length === 0, `${halves.length} records say another number than they hold`)
    const lone = await query(`SELECT e.id FROM ${back}.events e LEFT JOIN ${back}.commands c ON c.id = e.command_id WHERE c.id IS NULL`)
    agree(lone.length === 0, `${lone.length} entries without their command`)

    // A server on it: everybody logs in again, is told, and reads what was there.
    const list = join(folder, 'erasures.jsonl')
    server = await startServer({ port: await freePort(), env: { ...again, CIRCUITRY_ERASURES: list }, quiet: true })
    agree((await get(server.url, people[3], '/api/auth/me')).viewer === null, 'a login of before opens the one that was put back')
    const lead = (await logIn(server.url))[3]
    agree((await get(server.url, lead, '/api/auth/me')).restored !== null, 'nobody is told that it was put back')
    agree((await get(urls[0], people[3], '/api/auth/me')).restored === null, 'it is told where nothing was put back')
    for (const { jobId, siteId } of jobs) {
      const { siteState } = await get(server.url, lead, `/api/jobs/${jobId}`)
      const [{ seq }] = await query(`SELECT seq FROM ${back}.streams WHERE id = ?`, [siteId])
      agree(siteState.seq === seq, 'a home is read as it was not')
    }
    // Somebody is erased, and the backup that still knows them is put back once more.
    const erasable = (await query(`SELECT name FROM ${back}.customers GROUP BY name HAVING COUNT(*) = 1 ORDER BY name`)).map(
      ({ name }) => name,
    )
    let erased = null
    for (const name of erasable) {
      const { customers } = await get(server.url, lead, `/api/erasures/customers?search=${encodeURIComponent(name)}`)
      erased = customers.find((one) => one.inTheWay.length === 0 && one.name === name)
      if (erased) break
    }
    const { status } = await post(server.url, lead, '/api/erasures/customers', { customerIds: [erased.customerId] })
    agree(status === 200 && readFileSync(list, 'utf8').includes(erased.customerId), `nobody could be erased: ${status}`)
    await server.stop()
    server = null
    const dump = async () => (await runNode(['-e', everyText], again)).stdout
    agree(!(await dump()).includes(erased.name), `${erased.name} is there after erasing`)
    await query(`DROP DATABASE ${back}`)
    await query(`CREATE DATABASE ${back} CHARACTER SET utf8mb4`)
    await fillFrom(made.file, await readBackup(made.file, opened), again)
    agree((await dump()).includes(erased.name), 'a backup of before does not know who was erased later')
    server = await startServer({ port: await freePort(), env: { ...again, CIRCUITRY_ERASURES: list }, quiet: true })
    agree(!(await dump()).includes(erased.name), `${erased.name} is back with the backup of before`)
    // Beside the next backup lies what is erased.
    await makeBackup({ env: again, keys, kind: 'demo', folder: join(folder, 'later'), keysFolder: join(folder, 'keys') })
    agree(
      JSON.stringify(
        readFileSync(join(folder, 'later', 'erasures.jsonl'), 'utf8')
          .trim()
          .split('\n')
          .map((line) => JSON.parse(line)),
      ) ===
        JSON.stringify(
          readFileSync(list, 'utf8')
            .trim()
            .split('\n')
            .map((line) => JSON.parse(line)),
        ),
      'the list beside the backups is another than that of the servers',
    )
    // Its only lead has forgotten the password.
    const letIn = await runNode([join(root, 'scripts', 'let-in.mjs'), '--login=odo.reed'], again)
    const drawn = /^ {2}(\S+)$/m.exec(letIn.stdout)?.[1]
    const inAgain = await logInAs(server.url, 'odo.reed', drawn ?? '').catch((error) => error)
    agree(inAgain.cookie, `a lead is not let in: ${letIn.stdout}${letIn.stderr}${inAgain.message}`)
    agree((await get(server.url, lead, '/api/auth/me')).viewer === null, 'a login of before goes on after its person was let in')
    await server.stop()
    server = null
    const strange = await startServer({
      port: await freePort(),
      env: { ...again, CIRCUITRY_SECRET_KEY: randomBytes(32).toString('base64') },
      quiet: true,
      errorLog: join(folder, 'errors'),
    }).catch(() => null)
    await strange?.stop()
    agree(!strange && /sealed with another key/.test(readFileSync(join(folder, 'errors'), 'utf8')), 'a server with another key starts')
    // Another key: the one of before is no key of it any more, and what it sealed opens.
    const rotated = { ...again, CIRCUITRY_SECRET_KEY: randomBytes(32).toString('base64'), CIRCUITRY_OTHER_SECRET_KEYS: keys.secretKey }
    const rotating = await runNode([join(root, 'scripts', 'keys-rotate.mjs')], rotated)
    agree(rotating.status === 0 && /events: \d+/.test(rotating.stdout), `the key is not changed: ${rotating.stdout}${rotating.stderr}`)
    const sealedBefore = await query(`SELECT id FROM ${back}.sites WHERE door_code_sealed IS NOT NULL`)
    server = await startServer({ port: await freePort(), env: { ...rotated, CIRCUITRY_OTHER_SECRET_KEYS: '' }, quiet: true })
    const leadAgain = await logInAs(server.url, 'odo.reed', drawn)
    for (const { id } of sealedBefore.slice(0, 3)) {
      const { code } = await get(server.url, leadAgain, `/api/sites/${id}/door-code?reason=Looking`).catch((error) => ({ code: error }))
      agree(/^[\w #*.-]{3,}$/.test(code ?? ''), `a door code does not open with the new key: ${code}`)
    }
    await server.stop()
    server = null
    // Older backups go; what else lies there stays.
    writeFileSync(join(folder, 'backups', 'notes.txt'), 'stays')
    writeFileSync(join(folder, 'backups', 'circuitry-20200101-000000.sql.gz'), 'old')
    agree(keepNewest(join(folder, 'backups'), 1).length === 1, 'the older one stays')
    agree(readdirSync(join(folder, 'backups')).length === 3, 'more than the older one went')
    return { tried: ids.length, survived: Number(count), lost: ids.length - Number(count), wrong, note: `${found.entries} entries` }
  } finally {
    await server?.stop()
    await query(`DROP DATABASE IF EXISTS ${back}`)
    await connection.end()
    rmSync(folder, { recursive: true, force: true })
  }
}
