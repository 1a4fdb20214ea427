import { randomBytes } from 'node:crypto'
import { database } from '../database'
import { homeWithDevice } from '../testing/one-device'
import { openWorld } from '../testing/world'
import { checkKey, restoredLately } from './installation'
import { seal } from './secrets'

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
  await Promise.all([checkKey(), checkKey(), checkKey()])
  expect(await installation.count({ where: { name: 'keyCanary' } })).toBe(1)
  await checkKey()
  await expect(withKey(otherKey(), checkKey)).rejects.toThrow('sealed with another key')
  // What was refused changed nothing.
  await checkKey()
  await installation.destroy({ where: {} })
  await homeWithDevice()
  await sites.update({ doorCodeSealed: seal('1234') }, { where: {} })
  await expect(withKey(otherKey(), checkKey)).rejects.toThrow('sealed with another key')
  expect(await installation.count()).toBe(0)
  await checkKey()
})

test('everybody is told for two days that a backup was put back', async () => {
  const { installation } = database().models
  expect(await restoredLately()).toBeNull()
  const known = { at: '2026-11-30T09:00:00.000Z', from: '2026-11-30T02:15:00.000Z' }
  await installation.upsert({ name: 'restored', value: JSON.stringify(known) })
  expect(await restoredLately(new Date('2026-12-02T08:59:00Z'))).toEqual(known)
  expect(await restoredLately(new Date('2026-12-02T09:00:00Z'))).toBeNull()
  await installation.destroy({ where: { name: 'restored' } })
})
