// A Galera cluster of MariaDB servers on loopback: each node in a data directory of its own, made, founded, joined and ended here.
import { randomBytes } from 'node:crypto'
import { chmodSync, existsSync, mkdirSync, openSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { endProcess, find, freePort, isAlive, isOurs, needProgram, say, sleep, spawn, spawnSync, Stop } from './host.mjs'
import { credentials, environment, firstAccounts } from './mariadb.mjs'

/** Asked by the doors of the nodes; it may see the state of the server and nothing else. */
export const healthUser = 'health'
/** A node that stops answering is dropped after two to four seconds, not six. */
const quickGroup =
  'evs.keepalive_period=PT0.3S;evs.inactive_check_period=PT0.25S;evs.suspect_timeout=PT1.5S;evs.inactive_timeout=PT4S;evs.install_timeout=PT3S;gmcast.peer_timeout=PT1.5S'
const patienceMs = 120_000

function needGalera() {
  // A copy of the whole data goes by rsync; ss tells whether the other end listens.
  needProgram('rsync', ['rsync'])
  needProgram('ss', ['iproute2'])
  const paths = ['/usr/lib/galera/libgalera_smm.so', '/usr/lib64/galera-4/libgalera_smm.so', '/usr/lib64/galera/libgalera_smm.so']
  const library = paths.find((path) => existsSync(path))
  if (!library) throw new Stop('The library of the cluster is missing. Install it, then start again:\n\n  sudo apt-get install galera-4\n')
  return library
}

/** Lines of name and value, as the client prints them. */
const valuesIn = (text) => Object.fromEntries(text.split('\n').flatMap((line) => (line.includes('\t') ? [line.split('\t')] : [])))

/**
 * The cluster whose data lie below a directory.
 * @param count of nodes, for a new one
 */
export async function clusterIn(base, { count = 3 } = {}) {
  const mariadbd = needProgram('mariadbd', ['mariadb-server'])
  const provider = needGalera()
  mkdirSync(base, { recursive: true, mode: 0o700 })
  const known = credentials(base)
  const asRoot = process.getuid?.() === 0
  const user = asRoot ? ['--user=root'] : []
  const place = (n) => join(base, `node${n}`)
  const data = (n) => join(place(n), 'data')
  // Socket paths have a short limit, so they do not live below a directory of any length.
  const tag = randomBytes(6).toString('hex')
  const socket = (n) => join('/tmp', `circuitry-${process.getuid?.() ?? 0}-${tag}-${n}.sock`)
  const pidOf = (n) => (existsSync(join(place(n), 'pid')) ? Number(readFileSync(join(place(n), 'pid'), 'utf8')) : 0)
  const runs = (n) => isOurs(pidOf(n), `--datadir=${data(n)}`)
  const there = readdirSync(base).filter((name) => /^node\d+$/.test(name)).length
  const all = Array.from({ length: there || count }, (_, n) => n)
  for (const n of all)
    if (runs(n)) {
      say(`Ending node ${n + 1} of the cluster, which an earlier run left behind …`)
      process.kill(pidOf(n), 'SIGCONT')
      await endProcess(pidOf(n), 30_000)
    }
  const ports = []
  while (ports.length < all.length)
    ports.push({ sql: await freePort(), group: await freePort(), ist: await freePort(), sst: await freePort() })
  const path = `${process.env.PATH}:/usr/sbin:/sbin`

  // As root the copying daemon of a joining node becomes “nobody”, who may not write there: a copy of the script says who it is.
  let method = 'rsync'
  let programs = path
  if (asRoot) {
    method = 'rsync_as_root'
    const bin = join(base, 'bin')
    mkdirSync(bin, { recursive: true })
    const script = readFileSync(find('wsrep_sst_rsync'), 'utf8')
      .replace(/^pid file = /m, 'uid = 0\ngid = 0\npid file = ')
      .replaceAll('$(dirname "$0")', '/usr/bin')
    writeFileSync(join(bin, `wsrep_sst_${method}`), script)
    chmodSync(join(bin, `wsrep_sst_${method}`), 0o755)
    programs = `${bin}:${path}`
  }
  const cluster = [
    ...['--wsrep-on=ON', `--wsrep-provider=${provider}`, '--wsrep-cluster-name=circuitry', '--binlog-format=ROW'],
    ...['--default-storage-engine=InnoDB', '--innodb-autoinc-lock-mode=2'],
  ]

  async function make() {
    mkdirSync(data(0), { recursive: true })
    const made = spawnSync(
      needProgram('mariadb-install-db', ['mariadb-server']),
      ['--no-defaults', `--datadir=${data(0)}`, '--auth-root-authentication-method=normal', '--skip-test-db', ...user],
      { encoding: 'utf8' },
    )
    if (made.status !== 0) throw new Stop(`Could not make the database directory.\n${made.stdout}\n${made.stderr}`)
    // Accounts before anybody can connect: run without a network and without the cluster.
    const first = spawnSync(mariadbd, ['--no-defaults', `--datadir=${data(0)}`, '--bootstrap', ...user], {
      encoding: 'utf8',
      input: ['FLUSH PRIVILEGES', ...firstAccounts(known), `CREATE USER '${healthUser}'@'127.0.0.1' IDENTIFIED BY ''`, ''].join(';\n'),
    })
    if (first.status !== 0) throw new Stop(`The database did not take its first settings.\n${first.stderr}`)
  }
  const grastate = (n) => join(data(n), 'grastate.dat')
  const writtenSeq = (n) => Number(/^seqno:\s*(-?\d+)/m.exec(readFileSync(grastate(n), 'utf8'))?.[1] ?? -1)
  /** The last thing a node that was not ended in order committed, as "uuid:seqno"; it connects to nobody for it. */
  function recovered(n) {
    const args = [
      ...['--no-defaults', `--datadir=${data(n)}`, '--wsrep-recover', ...cluster, '--wsrep-cluster-address=gcomm://127.0.0.1'],
      ...['--skip-networking', '--innodb-buffer-pool-size=128M', ...user],
    ]
    const { stdout, stderr } = spawnSync(mariadbd, args, { encoding: 'utf8' })
    return [...`${stdout}\n${stderr}`.matchAll(/Recovered position:*\s*([0-9a-f-]+:-?\d+)/g)].at(-1)?.[1] ?? null
  }
  function launch(n, { more = [], writer = 0 } = {}) {
    mkdirSync(data(n), { recursive: true })
    mkdirSync(join(place(n), 'tmp'), { recursive: true })
    rmSync(socket(n), { force: true })
    // After a crash the position stands in InnoDB only. Untold, the node would have everything copied instead of what it lacks.
    const from = existsSync(join(data(n), 'mysql')) && existsSync(grastate(n)) && writtenSeq(n) < 0 ? recovered(n) : null
    // The donor of a full copy stands still meanwhile: it is not the node that is written to.
    const donor = all.findLast((one) => one !== n && one !== writer) ?? writer
    const { sql, group, ist, sst } = ports[n]
    const child = spawn(
      mariadbd,
      [
        ...['--no-defaults', `--datadir=${data(n)}`, `--tmpdir=${join(place(n), 'tmp')}`, `--socket=${socket(n)}`, `--port=${sql}`],
        ...['--bind-address=127.0.0.1', `--pid-file=${join(place(n), 'mariadbd.pid')}`, '--skip-name-resolve'],
        ...['--character-set-server=utf8mb4', '--max-allowed-packet=32M', '--innodb-buffer-pool-size=256M'],
        ...['--innodb-flush-log-at-trx-commit=1', '--innodb-lock-wait-timeout=10', ...cluster],
        ...[`--wsrep-node-name=node${n}`, `--wsrep-node-address=127.0.0.1:${group}`, `--wsrep-node-incoming-address=127.0.0.1:${sql}`],
        `--wsrep-cluster-address=gcomm://${ports.map((one) => `127.0.0.1:${one.group}`).join()}`,
        ...[`--wsrep-sst-method=${method}`, `--wsrep-sst-receive-address=127.0.0.1:${sst}`, `--wsrep-sst-donor=node${donor},`],
        `--wsrep-provider-options=gmcast.listen_addr=tcp://127.0.0.1:${group};ist.recv_addr=127.0.0.1:${ist};ist.recv_bind=127.0.0.1:${ist};gcache.size=128M;${quickGroup}`,
        ...user,
        ...(from ? [`--wsrep-start-position=${from}`] : []),
        ...more,
      ],
      {
        stdio: ['ignore', openSync(join(place(n), 'log'), 'a'), openSync(join(place(n), 'log'), 'a')],
        detached: true,
        env: { ...process.env, PATH: programs },
      },
    )
    child.unref()
    writeFileSync(join(place(n), 'pid'), String(child.pid))
  }
  /** As root on a node, through its socket. */
  const sql = (n, text) =>
    spawnSync(
      needProgram('mariadb', ['mariadb-client']),
      ['--no-defaults', '--connect-timeout=3', `--socket=${socket(n)}`, '-uroot', '-NBe', text],
      { encoding: 'utf8', timeout: 5000, env: { ...process.env, MYSQL_PWD: known.rootPassword } },
    )
  const status = (n) => {
    const { status: code, stdout } = sql(n, "SHOW STATUS LIKE 'wsrep\\_%'")
    return code === 0 ? valuesIn(stdout) : null
  }
  async function inStep(n) {
    for (let waited = 0; waited < patienceMs; waited += 200) {
      if (waited > 2000 && !runs(n)) break
      const now = existsSync(socket(n)) ? status(n) : null
      if (now?.wsrep_ready === 'ON' && now.wsrep_local_state_comment === 'Synced') return
      await sleep(200)
    }
    throw new Stop(`Node ${n + 1} of the cluster is not in step; see ${join(place(n), 'log')}.`)
  }

  return {
    ports: ports.map((one) => one.sql),
    all,
    pid: (n) => (runs(n) ? pidOf(n) : null),
    status,
    sql,
    /** What a server needs that reaches the cluster at a port. */
    env: (port) => environment(known, port),
    /** Founds the group anew, by whoever has the newest, and lets the others join. */
    async start() {
      let founder = 0
      if (!existsSync(join(data(0), 'mysql'))) await make()
      else {
        let newest = -1
        for (const n of all.filter((one) => existsSync(grastate(one)))) {
          const written = writtenSeq(n)
          const seq = written >= 0 ? written : Number(recovered(n)?.split(':')[1] ?? -1)
          if (seq > newest) [newest, founder] = [seq, n]
        }
        if (existsSync(grastate(founder)))
          writeFileSync(
            grastate(founder),
            readFileSync(grastate(founder), 'utf8').replace(/^safe_to_bootstrap: 0/m, 'safe_to_bootstrap: 1'),
          )
      }
      launch(founder, { more: ['--wsrep-new-cluster'] })
      await inStep(founder)
      for (const n of all) if (n !== founder) await this.join(n)
    },
    /** One node comes (back) to whoever is alive. @param writer the node that is written to meanwhile */
    async join(n, writer = 0) {
      launch(n, { writer })
      await inStep(n)
    },
    /** What a node holds is thrown away: when it joins it has everything copied. */
    empty(n) {
      rmSync(data(n), { recursive: true, force: true })
    },
    async stop() {
      for (const n of [...all].reverse()) {
        const pid = this.pid(n)
        if (!pid) continue
        process.kill(pid, 'SIGCONT')
        await endProcess(pid, 30_000)
        for (let waited = 0; isAlive(pid) && waited < 5000; waited += 100) await sleep(100)
        rmSync(socket(n), { force: true })
      }
    },
  }
}
