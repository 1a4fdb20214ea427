// The proxy before several nodes and servers, by the example of docs/operations.md: writing goes to one node, moves when its door
// closes, and stays where it went; people reach whichever server is alive.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createServer as createWeb } from 'node:http'
import { connect, createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { proxyFile, startProxy } from '../../lib/cluster.mjs'
import { find, freePort, root, sleep } from '../../lib/host.mjs'
import { openDoor, takesWrites } from '../../lib/node-door.mjs'

const state = (over = {}) => ({
  ...{ wsrep_ready: 'ON', wsrep_cluster_status: 'Primary', wsrep_local_state_comment: 'Synced', wsrep_cluster_size: '3' },
  ...over,
})

export async function beforeACluster() {
  if (!find('haproxy')) return { tried: 0, survived: 0, wrong: [], skipped: 'haproxy is not installed' }
  const folder = mkdtempSync(join(tmpdir(), 'circuitry-haproxy-'))
  const wrong = []
  let tried = 0
  const agree = (good, what) => {
    tried++
    if (!good) wrong.push(what)
  }
  for (const [what, is, may] of [
    ['in step', state(), true],
    ['copying its data to another', state({ wsrep_local_state_comment: 'Donor/Desynced' }), true],
    ['joining', state({ wsrep_local_state_comment: 'Joined' }), false],
    ['without majority', state({ wsrep_cluster_status: 'non-Primary' }), false],
    ['not ready', state({ wsrep_ready: 'OFF' }), false],
    ['silent', null, false],
  ])
    agree(takesWrites(is) === may, `a node that is ${what} ${may ? 'may not' : 'may'} be written to`)

  agree(takesWrites(state({ wsrep_cluster_size: '1' })), 'a node alone may be written to where nobody asks for more')
  agree(!takesWrites(state({ wsrep_cluster_size: '1' }), 2), 'a node alone is not written to where two are asked for')
  agree(takesWrites(state({ wsrep_cluster_size: '2' }), 2), 'two nodes that hold together are written to')

  // Three nodes that say their number to whoever connects, each with a door; three servers that say theirs.
  const closing = []
  const states = [state(), state(), state()]
  const nodes = []
  const servers = []
  const webs = []
  for (const n of [0, 1, 2]) {
    const node = createServer((socket) => socket.on('error', () => undefined).write(String(n)))
    await new Promise((done) => node.listen(0, '127.0.0.1', done))
    const door = await openDoor({ port: 0, ask: async () => states[n] })
    nodes.push({ sql: node.address().port, door: door.port })
    const web = createWeb((request, response) => response.end(`${n} ${request.headers['x-forwarded-for']}`))
    await new Promise((done) => web.listen(0, '127.0.0.1', done))
    webs.push(web)
    servers.push(web.address().port)
    closing.push(
      () => node.close(),
      () => door.close(),
      () => (web.closeAllConnections(), web.close()),
    )
  }
  const [writer, front] = [await freePort(), await freePort()]
  /** Which node answers at the port that is written to; null: nobody. */
  const written = () =>
    new Promise((resolve) => {
      const socket = connect(writer, '127.0.0.1')
      const done = (answer) => {
        socket.destroy()
        resolve(answer)
      }
      socket.setTimeout(1500, () => done(null))
      socket.on('data', (text) => done(Number(text)))
      socket.on('error', () => done(null)).on('close', () => done(null))
    })
  const becomes = async (node) => {
    for (let waited = 0; waited < 8000; waited += 100) {
      if ((await written()) === node) return true
      await sleep(100)
    }
    return false
  }
  let proxy = null
  try {
    const example = readFileSync(join(root, 'docs', 'examples', 'haproxy.cfg'), 'utf8')
    proxy = await startProxy(folder, proxyFile(example, { writer, front, nodes, servers }))
    agree(await becomes(0), 'the first node is not written to')
    states[1] = null
    await sleep(1500)
    agree((await written()) === 0, 'the writing moved though its node is well')
    // An open connection to a node that lost its majority would go on being asked.
    const held = connect(writer, '127.0.0.1')
      .on('error', () => undefined)
      .resume()
    const cut = new Promise((resolve) => held.on('close', () => resolve(true)))
    states[0] = state({ wsrep_cluster_status: 'non-Primary' })
    agree(await becomes(2), 'the writing does not move to a node that is well')
    agree(await Promise.race([cut, sleep(3000)]), 'a connection to the node of before stays open')
    states[0] = state()
    states[1] = state()
    await sleep(3000)
    agree((await written()) === 2, 'a node that comes back takes the writing back')
    states[2] = state({ wsrep_local_state_comment: 'Donor/Desynced' })
    await sleep(1500)
    agree((await written()) === 2, 'the writing leaves a node that copies its data to another')
    const asked = async () => (await fetch(`http://127.0.0.1:${front}/`)).text()
    const said = new Set()
    for (let n = 0; n < 6; n++) said.add(await asked())
    agree(
      [0, 1, 2].every((n) => said.has(`${n} 127.0.0.1`)),
      `people reach ${[...said].join(', ')}`,
    )
    webs[1].closeAllConnections()
    await new Promise((done) => webs[1].close(done))
    const answers = []
    for (let n = 0; n < 12; n++) answers.push(await asked().catch(() => 'nobody'))
    agree(
      !answers.includes('nobody') && !answers.some((one) => one.startsWith('1 ')),
      `without one server people reach ${answers.join(', ')}`,
    )
    return { tried, survived: tried - wrong.length, wrong }
  } finally {
    await proxy?.stop()
    for (const close of closing) await close()
    rmSync(folder, { recursive: true, force: true })
  }
}
