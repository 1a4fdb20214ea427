import { jest } from '@jest/globals'
import { database } from '../database'
import { makeCompany, open, openWorld } from '../testing/world'
import { Connections } from './connections'
import { feedAfter, feedSeq } from './feed'
import { arriveAt, presentAt } from './presence'

jest.setTimeout(60_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

test('who has windows on two servers is missed when the last of all closes, or when its server is silent', async () => {
  const { lead, add } = await makeCompany()
  const [ann, ben] = [await add('technician'), await add('technician')]
  const { siteId } = await open(lead)
  await arriveAt(ann, siteId, { place: 'walk' })
  await arriveAt(ben, siteId, { place: 'panel' })
  const here = async () => {
    const { present } = await presentAt(lead, siteId)
    return [ann, ben].map(({ personId }) => present.find((one) => one.personId === personId)!.connected)
  }
  let clock = 0
  const [first, second] = [new Connections('first', () => clock), new Connections('second', () => clock)]
  await first.opened(ann)
  await first.opened(ann)
  await second.opened(ann)
  await second.opened(ben)
  expect([first.windowsOf(ann.personId), second.windowsOf(ann.personId), second.windowsOf(lead.personId)]).toEqual([2, 1, 0])
  await first.closed(ann)
  await first.closed(ann)
  expect(await here()).toEqual([true, true])
  await second.closed(ann)
  expect(await here()).toEqual([false, true])

  // A phone that changes its server: the old connection ends after the new one has begun.
  await first.opened(ann)
  await second.opened(ann)
  await first.closed(ann)
  expect(await here()).toEqual([true, true])

  // The second server is killed: its word is old, and whoever beats next says so once, to everybody.
  const age = () =>
    database().sequelize.query("UPDATE connections SET beat_at = '2026-01-01' WHERE server_id = ?", { replacements: [second.serverId] })
  await age()
  const before = await feedSeq(lead.companyId)
  // The database was away until now: nobody could be heard of.
  await first.beat()
  expect(await here()).toEqual([true, true])
  clock += 50_000
  await Promise.all([first.beat(), first.beat()])
  expect(await here()).toEqual([false, false])
  expect((await feedAfter(lead.companyId, before, 10)).map(({ topic }) => topic)).toEqual(['presence', 'presence'])
  // It had only been stopped for a while.
  await second.beat()
  expect(await here()).toEqual([true, true])
  // Who has gone to another server meanwhile is not missed.
  await first.opened(ben)
  await age()
  await first.beat()
  expect(await here()).toEqual([false, true])
})
