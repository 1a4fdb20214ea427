import { randomBytes } from 'node:crypto'
import { database } from '../database'
import { homeWithDevice } from '../testing/one-device'
import { openWorld, siteCommand } from '../testing/world'
import { notePutBack, readInstallation, restoredLately, saidBeforePutBack } from './installation'
import { seal } from './secrets'
import { readState } from './streams'

let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const withKey = async <T>(key: string, work: () => Promise<T>): Promise<T> => {
  const own = process.env.CIRCUITRY_SECRET_KEY
  process.env.CIRCUITRY_SECRET_KEY = key
  try {
    return await work()
  } finally {
    process.env.CIRCUITRY_SECRET_KEY = own
  }
}
const otherKey = () => randomBytes(32).toString('base64')

test('a database knows the key it was sealed with, by its first server or by a door code of before; another one is refused', async () => {
  const { installation, sites } = database().models
  await installation.destroy({ where: {} })
  await sites.update({ doorCodeSealed: null }, { where: {} })
  await Promise.all([readInstallation(), readInstallation(), readInstallation()])
  expect(await installation.count({ where: { name: 'keyCanary' } })).toBe(1)
  await readInstallation()
  await expect(withKey(otherKey(), readInstallation)).rejects.toThrow('sealed with another key')
  // What was refused changed nothing.
  await readInstallation()
  await installation.destroy({ where: {} })
  await homeWithDevice()
  await sites.update({ doorCodeSealed: seal('1234') }, { where: {} })
  await expect(withKey(otherKey(), readInstallation)).rejects.toThrow('sealed with another key')
  expect(await installation.count()).toBe(0)
  await readInstallation()
})

test('everybody is told for two days that a backup was put back', async () => {
  const { installation } = database().models
  expect(restoredLately()).toBeNull()
  const known = { at: '2026-11-30T09:00:00.000Z', from: '2026-11-30T02:15:00.000Z' }
  await installation.upsert({ name: 'restored', value: JSON.stringify(known) })
  await readInstallation()
  expect(restoredLately(new Date('2026-12-02T08:59:00Z'))).toEqual(known)
  expect(restoredLately(new Date('2026-12-02T09:00:00Z'))).toBeNull()
  expect([saidBeforePutBack('2026-11-30T08:59:59.000Z'), saidBeforePutBack('2026-11-30T09:00:00.000Z')]).toEqual([true, false])
  await installation.destroy({ where: { name: 'restored' } })
  await readInstallation()
  expect(saidBeforePutBack('2020-01-01T00:00:00.000Z')).toBe(false)
})

test('what a phone recorded before a backup was put back counts as said without knowing the record', async () => {
  const { anna, siteId } = await homeWithDevice()
  const breakerId = Object.values((await readState('site', siteId)).breakers).find(({ role }) => role === 'branch')!.id
  const last = async () => (await database().models.events.findAll({ where: { streamId: siteId }, order: [['seq', 'DESC']], limit: 1 }))[0]!
  const open = async () => {
    await siteCommand(anna, siteId, { type: 'observeBreaker', breakerId, state: 'closed', how: 'found', note: '' })
    await siteCommand(anna, siteId, { type: 'observeBreaker', breakerId, state: 'open', how: 'found', note: '' })
    return JSON.parse(String((await last()).payload)) as { late: boolean; knewSeq: number }
  }
  expect(await open()).toMatchObject({ late: false })
  notePutBack({ value: JSON.stringify({ at: new Date(Date.now() + 60_000).toISOString(), from: '2026-11-30T02:15:00.000Z' }) })
  expect(await open()).toMatchObject({ late: true, knewSeq: 0 })
  notePutBack(null)
})
