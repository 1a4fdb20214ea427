// A door beside each node of a cluster: over http it says whether the node may be written to. A node without majority still
// takes logins, so no check by logging in tells.
import { createServer } from 'node:http'
import { createConnection } from 'mysql2/promise'

/**
 * May a node be written to? One that copies its data to another may, too; one that joins, or has no majority, may not.
 * @param status what the node says of itself, name to value; null: no answer
 * @param least so many nodes hold together, or it is not written to: of two groups that were each founded by somebody, neither is whole
 */
export const takesWrites = (status, least = 1) =>
  status !== null &&
  status.wsrep_ready === 'ON' &&
  status.wsrep_cluster_status === 'Primary' &&
  ['Synced', 'Donor/Desynced'].includes(status.wsrep_local_state_comment) &&
  Number(status.wsrep_cluster_size) >= least

/** Asks a node over a connection that is kept. @returns a function that resolves to its status, null: no answer in time */
export function asking({ host = '127.0.0.1', port, user, patienceMs = 900 }) {
  let connection = null
  const give = (ms) => new Promise((resolve) => setTimeout(resolve, ms, null))
  const drop = () => {
    void connection?.then((one) => one.destroy()).catch(() => undefined)
    connection = null
  }
  const ask = async () => {
    connection ??= createConnection({ host, port, user, connectTimeout: patienceMs })
    const one = await connection
    if (one.listenerCount('error') === 0) one.on('error', drop)
    const [rows] = await one.query("SHOW STATUS LIKE 'wsrep\\_%'")
    return Object.fromEntries(rows.map(({ Variable_name: name, Value: value }) => [name, value]))
  }
  return async () => {
    const answer = await Promise.race([ask().catch(() => null), give(patienceMs)])
    if (answer === null) drop()
    return answer
  }
}

/** Opens the door of a node: 200 where it may be written to, else 503, and one line that says why. */
export async function openDoor({ host = '127.0.0.1', port, ask, least = 1 }) {
  const door = createServer((_, response) => {
    void ask().then((status) => {
      const words = status
        ? `${status.wsrep_local_state_comment}, ${status.wsrep_cluster_status}, ${status.wsrep_cluster_size} nodes, at ${status.wsrep_last_committed}`
        : 'no answer'
      response.writeHead(takesWrites(status, least) ? 200 : 503, { 'content-type': 'text/plain', connection: 'close' }).end(`${words}\n`)
    })
  })
  await new Promise((resolve, reject) => door.once('error', reject).listen(port, host, resolve))
  return { port: door.address().port, close: () => new Promise((resolve) => (door.close(resolve), door.closeAllConnections())) }
}
