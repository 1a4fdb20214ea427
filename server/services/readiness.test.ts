import { database } from '../database'
import { migrate, migrationLog } from '../database/migrate'
import { methodsAt } from '../http/known-routes'
import { openWorld, refusedWith } from '../testing/world'
import { noteSessionPassword } from './installation'
import { clockSaid, readiness } from './readiness'

let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

test('a server is ready with its database, the tables of its version and its key; else it says what is wrong', async () => {
  expect(await readiness()).toMatchObject({ ok: true, version: expect.stringMatching(/^\d+\.\d+\.\d+$/) })
  const log = migrationLog(database().sequelize)
  const name = (await log.executed()).at(-1)!
  await log.unlogMigration({ name })
  await expect(readiness()).rejects.toThrow('The tables are of an older version.')
  await log.logMigration({ name })
  // An older program leaves what a newer one has changed alone.
  await log.logMigration({ name: '9999-tomorrow' })
  await expect(migrate(database().sequelize)).rejects.toThrow('A newer program has changed this database (9999-tomorrow).')
  await log.unlogMigration({ name: '9999-tomorrow' })
  expect(await migrate(database().sequelize)).toEqual([])
  const key = process.env.CIRCUITRY_SECRET_KEY
  process.env.CIRCUITRY_SECRET_KEY = 'too short'
  await expect(readiness()).rejects.toThrow('CIRCUITRY_SECRET_KEY must be 32 bytes in base64.')
  expect(await refusedWith(readiness())).toEqual([503, 'notReady'])
  process.env.CIRCUITRY_SECRET_KEY = key
  expect(await readiness()).toMatchObject({ ok: true })
  // Another server was started with another password for logins.
  const password = process.env.NUXT_SESSION_PASSWORD
  await noteSessionPassword()
  expect(await readiness()).toMatchObject({ ok: true })
  process.env.NUXT_SESSION_PASSWORD = 'another one, of forty letters and more than that'
  await noteSessionPassword()
  process.env.NUXT_SESSION_PASSWORD = password ?? ''
  await expect(readiness()).rejects.toThrow('different NUXT_SESSION_PASSWORD')
  await noteSessionPassword()
  expect(await readiness()).toMatchObject({ ok: true })
})

test('addresses and their methods: an id stands for one part, the head of what can be read can be asked for', () => {
  expect(methodsAt('/api/health')).toEqual(['GET', 'HEAD'])
  expect(methodsAt('/api/people')!.sort()).toEqual(['GET', 'HEAD', 'POST'])
  expect(methodsAt('/api/jobs/anything')).toContain('GET')
  for (const none of ['/api/nothing', '/api/jobs/one/two/three/four', '/api/', '/api/people/../health']) expect(methodsAt(none)).toBeNull()
})

test('a clock that differs from the database’s is said; the way there and back is given to it', () => {
  const at = 1_800_000_000_000
  expect(clockSaid(at, at - 4000, at - 3900)).toBeNull()
  // Asked for eight seconds, and read somewhere between.
  expect(clockSaid(at, at - 7900, at + 100)).toBeNull()
  expect(clockSaid(at, at + 600_000, at + 600_010)).toBe('The clock of this machine is 600 seconds ahead of the database’s.')
  expect(clockSaid(at, at - 6010, at - 6000)).toBe('The clock of this machine is 6 seconds behind the database’s.')
})
