// A company is taken to another place while people work: what they were told is done is there, and nobody writes at two places.
import { randomBytes } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { connectTo } from '../../lib/backup.mjs'
import { freePort, root, runNode } from '../../lib/host.mjs'
import { startServer } from '../../lib/server.mjs'
import { get, give, jobsOf, logIn, logInAs, randomEnvelope } from './crew.mjs'

const company = (env, args) => runNode([join(root, 'scripts', 'company.mjs'), ...args], env)
/** Status and sentence of a login. */
async function told(url, login) {
  const answer = await fetch(`${url}/api/auth/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login, password: 'tide-and-lantern' }),
  })
  return `${answer.status} ${(await answer.json()).error?.message ?? ''}`
}

export async function takenElsewhere(urls, env) {
  const folder = mkdtempSync(join(tmpdir(), 'circuitry-company-'))
  const wrong = []
  const agree = (good, what) => good || wrong.push(what)
  const names = { from: `${env.CIRCUITRY_DB_NAME}_from`, to: `${env.CIRCUITRY_DB_NAME}_to` }
  const [from, to] = [
    { ...env, CIRCUITRY_DB_NAME: names.from },
    { ...env, CIRCUITRY_DB_NAME: names.to, CIRCUITRY_SECRET_KEY: randomBytes(32).toString('base64') },
  ]
  const connection = await connectTo(env)
  const query = async (sql, values = []) => (await connection.query(sql, values))[0]
  const servers = []
  const serve = async (place, more = {}) => {
    servers.push(await startServer({ port: await freePort(), env: { ...place, CIRCUITRY_SEED: '', ...more }, quiet: true }))
    return servers.at(-1).url
  }
  try {
    for (const name of Object.values(names)) {
      await query(`DROP DATABASE IF EXISTS \`${name}\``)
      await query(`CREATE DATABASE \`${name}\` CHARACTER SET utf8mb4`)
    }
    const here = await serve(from, { CIRCUITRY_SEED: 'demo' })
    const there = await serve(to)
    const [{ name }] = await query(`SELECT name FROM \`${names.from}\`.companies`)
    // Another company works at the other place already.
    const added = await company(to, [
      ...[
        'new',
        '--name=Weir Lights',
        '--branch=One',
        '--supply=na120',
        '--timezone=UTC',
        '--lead=Ann Marsh',
        '--initials=AM',
        '--login=odo.reed',
      ],
    ])
    const password = /^ {2}(\S+)$/m.exec(added.stdout)?.[1] ?? ''
    agree(added.status === 0 && password, `no second company: ${added.stdout}${added.stderr}`)
    // The demo begins with a tag that hangs.
    const hanging = await company(from, ['export', `--company=${name}`, `--to=${join(folder, 'no')}`, '--close'])
    agree(hanging.status !== 0 && /a tag of/.test(hanging.stderr), `it is closed over a tag: ${hanging.stdout}${hanging.stderr}`)
    const early = await company(from, ['remove', `--company=${name}`, `--really=${name}`])
    agree(early.status !== 0 && /People work/.test(early.stderr), 'a company is removed while people work')
    const people = await logIn(here)
    const jobs = await jobsOf(here, people[3], ['School studio 2', 'Quay Loft 4'])
    const answered = []
    let closed = false
    const worker = async () => {
      for (let at = 0; !closed; at++) {
        const envelope = randomEnvelope(jobs[at % 2])
        try {
          answered.push((await give([here], people[3], envelope)).outcome)
        } catch {
          // Logged out: nothing is taken any more.
          return
        }
      }
    }
    const working = Promise.all([worker(), worker(), worker()])
    // Entries are of every kind, tags among them: it is closed over them only when told to.
    const out = await company(from, ['export', `--company=${name}`, `--to=${join(folder, 'out')}`, '--close', '--anyway'])
    closed = true
    await working
    const passphrase = /passphrase {2}(\S+)/.exec(out.stdout)?.[1]
    agree(out.status === 0 && passphrase, `it is not taken out: ${out.stdout}${out.stderr}`)
    agree(answered.length > 10, `only ${answered.length} entries were made meanwhile`)
    agree((await told(here, 'odo.reed')).startsWith('403 This company is being moved'), 'it goes on where it was closed')
    const env2 = { ...to, CIRCUITRY_COMPANY_PASSPHRASE: 'AAAA-AAAA-AAAA-AAAA' }
    const refused = await company(env2, ['import', `--from=${join(folder, 'out')}`])
    agree(refused.status !== 0 && /not the passphrase/.test(refused.stderr), 'another passphrase is taken')
    const brought = await company({ ...env2, CIRCUITRY_COMPANY_PASSPHRASE: passphrase }, ['import', `--from=${join(folder, 'out')}`])
    agree(brought.status === 0, `it is not brought in: ${brought.stdout}${brought.stderr}`)
    agree(!readFileSync(join(folder, 'out', 'tables', 'people.ndjson'), 'utf8').includes('scrypt:'), 'hashes of passwords lie open')
    const lead = (await logIn(there))[3]
    for (const { jobId, siteId } of jobs) {
      const { siteState } = await get(there, lead, `/api/jobs/${jobId}`)
      const [{ seq }] = await query(`SELECT seq FROM \`${names.from}\`.streams WHERE id = ?`, [siteId])
      agree(siteState.seq === seq, 'a home is read as it was not')
    }
    const [{ count }] = await query(`SELECT COUNT(*) AS count FROM \`${names.to}\`.commands WHERE id IN (?)`, [
      answered.map(({ commandId }) => commandId),
    ])
    agree(Number(count) === answered.length, `${answered.length - Number(count)} of ${answered.length} answered before it are missing`)
    // Both companies have an odo.reed; each comes to their own.
    const ann = await logInAs(there, 'odo.reed', password).catch((error) => error)
    agree((await get(there, ann, '/api/jobs').catch(() => ({ jobs: [0] }))).jobs.length === 0, 'the other company sees its jobs')
    await company(from, ['moved', `--company=${name}`, '--to=https://circuitry.example'])
    agree((await told(here, 'lena.moss')).includes('https://circuitry.example'), 'its people are not told where to go')
    const gone = await company(from, ['remove', `--company=${name}`, `--really=${name}`])
    const [left] = await query(`SELECT COUNT(*) AS count FROM \`${names.from}\`.events`)
    agree(gone.status === 0 && Number(left.count) === 0, `it is not gone: ${gone.stdout}${gone.stderr}`)
    return { tried: answered.length, survived: Number(count), lost: answered.length - Number(count), wrong }
  } finally {
    for (const server of servers) await server.stop()
    for (const name of Object.values(names)) await query(`DROP DATABASE IF EXISTS \`${name}\``)
    await connection.end()
    rmSync(folder, { recursive: true, force: true })
  }
}
