import { jest } from '@jest/globals'
import { QueryTypes, type Transaction } from 'sequelize'
import { answerProblem } from '../http/route'
import { openWorld } from '../testing/world'
import { holdFixedRow } from './fixed-row'
import { database, migrate, transacted } from '.'
import { DatabaseTrouble, Patience, transact, troubleOf } from './transact'

jest.setTimeout(120_000)
let close: () => Promise<void>
const sql = (text: string, transaction?: Transaction) => database().sequelize.query(text, transaction ? { transaction } : {})
const counts = async () => {
  const rows = await database().sequelize.query<{ id: number; count: number }>('SELECT id, count FROM counters ORDER BY id', {
    type: QueryTypes.SELECT,
  })
  return rows.map(({ count }) => Number(count))
}
const add = (id: number, transaction: Transaction) => sql(`UPDATE counters SET count = count + 1 WHERE id = ${id}`, transaction)
const connectionOf = async (transaction: Transaction) => {
  const [row] = await database().sequelize.query<{ id: number }>('SELECT CONNECTION_ID() AS id', { type: QueryTypes.SELECT, transaction })
  return Number(row!.id)
}
const trouble = (work: Promise<unknown>) =>
  work.then(
    () => 'done',
    (error: unknown) => (error instanceof DatabaseTrouble ? `${error.is}${error.outcomeUnknown ? ', unknown' : ''}` : String(error)),
  )
beforeAll(async () => {
  close = await openWorld()
  await sql('CREATE TABLE counters (id INT PRIMARY KEY, count INT NOT NULL)')
})
beforeEach(async () => {
  // Each connection that is ended here is told of.
  jest.spyOn(console, 'warn').mockImplementation(() => undefined)
  await sql('REPLACE INTO counters VALUES (1, 0), (2, 0)')
})
afterAll(async () => {
  await sql('DROP TABLE counters')
  await close()
})

test('two that wait on each other are both done, each once', async () => {
  let met = 0
  const crossing = (first: number, second: number) =>
    transacted(async (transaction) => {
      await add(first, transaction)
      if (++met <= 2) for (let waited = 0; met < 2 && waited < 200; waited++) await new Promise((resolve) => setTimeout(resolve, 10))
      await add(second, transaction)
    })
  await Promise.all([crossing(1, 2), crossing(2, 1)])
  expect(met).toBeGreaterThan(2)
  expect(await counts()).toEqual([2, 2])
})
test('a row that somebody holds for long is asked for twice, then it is said', async () => {
  let tries = 0
  const held = await database().sequelize.transaction()
  await add(1, held)
  expect(
    await trouble(
      transacted(async (transaction) => {
        tries++
        await sql('SET innodb_lock_wait_timeout = 1', transaction)
        await add(1, transaction).finally(() => sql('SET innodb_lock_wait_timeout = 50', transaction))
      }),
    ),
  ).toBe('locked')
  await held.rollback()
  expect([tries, await counts()]).toEqual([2, [0, 0]])
})
test('a connection that is lost in the middle stores nothing, and the next transaction has another', async () => {
  expect(
    await trouble(
      transacted(async (transaction) => {
        await add(1, transaction)
        await sql(`KILL CONNECTION ${await connectionOf(transaction)}`)
        await add(2, transaction)
      }),
    ),
  ).toBe('away')
  expect(await counts()).toEqual([0, 0])
  await transacted((transaction) => add(1, transaction))
  expect(await counts()).toEqual([1, 0])
})
test('one that is lost at the commit is not repeated: nobody knows what became of it', async () => {
  let tries = 0
  expect(
    await trouble(
      transacted(async (transaction) => {
        tries++
        await add(1, transaction)
        await sql(`KILL CONNECTION ${await connectionOf(transaction)}`)
      }),
    ),
  ).toBe('away, unknown')
  expect(tries).toBe(1)
})
test('a node without majority is not asked again over the same connection', async () => {
  const ids: number[] = []
  const noMajority = Object.assign(new Error('WSREP has not yet prepared node for application use'), { parent: { errno: 1047 } })
  for (let time = 0; time < 4; time++)
    expect(
      await trouble(
        transact(database().sequelize, async (transaction) => {
          ids.push(await connectionOf(transaction))
          throw noMajority
        }),
      ),
    ).toBe('away')
  expect(new Set(ids).size).toBe(4)
})
test('what is no trouble of the database is thrown as it was, and nothing is stored', async () => {
  expect(
    await trouble(
      transacted(async (transaction) => {
        await add(1, transaction)
        throw new Error('No such home.')
      }),
    ),
  ).toBe('Error: No such home.')
  expect(await counts()).toEqual([0, 0])
})
test('a deadlock is tried twelve times, a lost connection once', async () => {
  const tried = async (is: 'deadlock' | 'locked' | 'away' | 'full') => {
    const patience = new Patience()
    let count = 1
    while (await patience.again(is)) count++
    return count
  }
  expect([await tried('deadlock'), await tried('locked'), await tried('away'), await tried('full')]).toEqual([12, 2, 1, 1])
})
test('whoever asked hears 503 and that the same may be asked again, never that nothing was changed where nobody knows', () => {
  const said = (parent: object) => {
    const event = { node: { res: { statusCode: 200, closed: false } }, context: {} }
    jest.spyOn(console, 'error').mockImplementation(() => undefined)
    const { error } = answerProblem(event as never, Object.assign(new Error('x'), { parent }))
    jest.restoreAllMocks()
    return [event.node.res.statusCode, error.code, error.message.includes('Nothing was stored')]
  }
  expect(said({ errno: 1180 })).toEqual([503, 'databaseAway', false])
  expect(said({ code: 'PROTOCOL_CONNECTION_LOST', fatal: true })).toEqual([503, 'databaseAway', false])
  expect(said({ errno: 1213 })).toEqual([503, 'databaseBusy', true])
  expect(said({ errno: 1290 })).toEqual([503, 'databaseReadOnly', true])
  expect(said({ errno: 1021 })).toEqual([503, 'databaseFull', true])
  expect(said({ errno: 1054 })).toEqual([500, 'internal', false])
  expect(troubleOf(new Error('none'))).toBeNull()
  // As the driver says it, with nothing around it.
  const lost = Object.assign(new Error('Connection lost'), { code: 'PROTOCOL_CONNECTION_LOST', fatal: true })
  expect([troubleOf(lost), troubleOf(Object.assign(new Error('mail'), { code: 'ECONNRESET' }))]).toEqual(['away', null])
})
test('a fixed row is held by one at a time, and two who migrate at once do it one after the other', async () => {
  const order: string[] = []
  const hold = (name: string, ms: number) =>
    transacted(async (transaction) => {
      await holdFixedRow(database().sequelize, 'setUp', transaction, 10)
      order.push(`${name} in`)
      await new Promise((resolve) => setTimeout(resolve, ms))
      order.push(`${name} out`)
    })
  await Promise.all(['a', 'b', 'c', 'd'].map((name) => hold(name, 20)))
  for (let index = 0; index < order.length; index += 2) expect(order[index + 1]).toBe(order[index]!.replace('in', 'out'))
  expect(await Promise.all([migrate(database().sequelize), migrate(database().sequelize), migrate(database().sequelize)])).toEqual([
    [],
    [],
    [],
  ])
})
