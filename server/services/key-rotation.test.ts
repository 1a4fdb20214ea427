import { createCipheriv, randomBytes } from 'node:crypto'
import { jest } from '@jest/globals'
import { QueryTypes } from 'sequelize'
import { database } from '../database'
import { keyId } from '../database/secret-key'
import { homeWithDevice } from '../testing/one-device'
import { jobCommand, openWorld, refusedWith, uuid } from '../testing/world'
import { doorCodeOf, setupCodeOf } from './codes'
import { readInstallation } from './installation'
import { changeKey, sealAllAnew } from './key-rotation'
import { hasMark, deviceMark, linkKey, opens } from './links'
import { deviceKeyOf, seal, sealedAnew, unseal } from './secrets'
import { execute } from './commands'
import { forgetStates, readState } from './streams'

jest.setTimeout(120_000)
let close: () => Promise<void>
const before = { ...process.env }
beforeAll(async () => {
  close = await openWorld()
})
afterAll(async () => {
  await close()
  process.env.CIRCUITRY_SECRET_KEY = before.CIRCUITRY_SECRET_KEY
  delete process.env.CIRCUITRY_OTHER_SECRET_KEYS
})

const newKey = () => randomBytes(32).toString('base64')
const today = () => process.env.CIRCUITRY_SECRET_KEY!
/** As servers get it: a new key, the one of before among the others, and that one taken away at the end. */
async function rotate(leaked = false): Promise<Map<string, number>> {
  const old = today()
  Object.assign(process.env, { CIRCUITRY_SECRET_KEY: newKey(), CIRCUITRY_OTHER_SECRET_KEYS: old })
  const changed = await changeKey(leaked)
  delete process.env.CIRCUITRY_OTHER_SECRET_KEYS
  forgetStates()
  await readInstallation()
  return changed
}
/** As the program of before sealed: without the name of its key. */
function sealedBefore(secret: string): string {
  const iv = randomBytes(12)
  const cipher = createCipheriv('aes-256-gcm', Buffer.from(today(), 'base64'), iv)
  const text = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()])
  return ['v1', ...[iv, cipher.getAuthTag(), text].map((part) => part.toString('base64url'))].join(':')
}
/** Every value of every table that holds this text. */
async function holding(text: string): Promise<string[]> {
  const { sequelize } = database()
  const columns = await sequelize.query<{ name: string; text: string }>(
    "SELECT TABLE_NAME AS name, COLUMN_NAME AS text FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE() AND DATA_TYPE LIKE '%text' OR TABLE_SCHEMA = DATABASE() AND DATA_TYPE LIKE '%char'",
    { type: QueryTypes.SELECT },
  )
  const found: string[] = []
  for (const { name, text: column } of columns) {
    const rows = await sequelize.query(`SELECT 1 FROM \`${name}\` WHERE \`${column}\` LIKE ?`, {
      replacements: [`%${text}%`],
      type: QueryTypes.SELECT,
    })
    if (rows.length) found.push(`${name}.${column}`)
  }
  return found
}

test('every code opens with the new key alone, wherever it is sealed: in a column, in an event, in a record, from before keys had names', async () => {
  await readInstallation()
  const { anna, lead, jobId, siteId, code } = await homeWithDevice()
  const unitId = Object.keys((await readState('job', jobId)).units)[0]!
  const { sites, jobs } = database().models
  await sites.update({ doorCodeSealed: sealedBefore('the blue door 7') }, { where: { id: siteId } })
  // Somebody wrote what looks like one, into a text of their own.
  const lookalike = 'v1:AAAAAAAAAAAAAAAA:BBBBBBBBBBBBBBBBBBBBBB:CCCC and v2:notours1:a:b:c'
  const [[column]] = [Object.keys(jobs.getAttributes()).filter((name) => /note|scope|name|title/i.test(name))]
  expect(column).toBeDefined()
  await jobs.update({ [column!]: lookalike }, { where: { id: jobId } })
  const old = keyId(Buffer.from(today(), 'base64'))
  expect((await holding(`v2:${old}:`)).sort()).toEqual(expect.arrayContaining(['events.payload', 'installation.value']))
  const changed = await rotate()
  expect(changed.get('events')).toBeGreaterThan(0)
  expect(changed.get('sites')).toBe(1)
  expect(await holding(`v2:${old}:`)).toEqual([])
  // The keys of before are kept for what they signed: what they sealed has to open without them.
  await database().models.installation.destroy({ where: { name: 'formerKeys' } })
  await readInstallation()
  expect(await setupCodeOf(lead, jobId, unitId, 'Looking')).toEqual({ code })
  expect(await doorCodeOf(anna, siteId, 'Looking')).toEqual({ code: 'the blue door 7' })
  expect((await jobs.findByPk(jobId, { raw: true }))![column as 'id']).toBe(lookalike)
  // A database that begins with this key, for the tests below.
  await database().models.installation.destroy({ where: { name: 'firstKeyId' } })
  await readInstallation()
})

test('a repeated command is known, and one that reuses its id is refused, over two changes of the key', async () => {
  const { anna, jobId } = await homeWithDevice()
  const command = { type: 'tickHandover', itemId: 'wall', done: true, rests: 'seen', photoId: null, note: '' } as const
  const envelope = {
    ...{ id: uuid(), stream: 'job' as const, streamId: jobId, at: new Date().toISOString() },
    ...{ basedOnSeq: 0, heldMs: 0, jobSeq: null, command },
  }
  const first = await execute(envelope, anna)
  await rotate()
  await rotate()
  expect(await execute(envelope, anna)).toEqual(first)
  expect(await refusedWith(execute({ ...envelope, command: { ...command, done: false } }, anna))).toEqual([409, 'commandIdReused'])
  expect((await jobCommand(anna, jobId, command)).status).toBe('accepted')
})

test('what was sealed on a device opens; links go on, but not those that a leaked key signed', async () => {
  const [personId, deviceId, visitId] = [uuid(), uuid(), uuid()]
  const unsent = deviceKeyOf(personId)
  const [link, mark] = [linkKey('visit', visitId), deviceMark(personId, deviceId)]
  await rotate()
  expect(deviceKeyOf(personId)).toBe(unsent)
  expect([opens('visit', link, visitId), hasMark([mark], personId, deviceId)]).toEqual([true, true])
  const later = linkKey('visit', visitId)
  expect(later).not.toBe(link)
  await rotate(true)
  expect([opens('visit', link, visitId), opens('visit', later, visitId)]).toEqual([true, false])
  expect(opens('visit', linkKey('visit', visitId), visitId)).toBe(true)
  expect(deviceKeyOf(personId)).toBe(unsent)
})

test('one that was cut off goes on: both keys open until all is done, and nothing is sealed twice', async () => {
  const { lead, jobId, code } = await homeWithDevice()
  const unitId = Object.keys((await readState('job', jobId)).units)[0]!
  const old = today()
  Object.assign(process.env, { CIRCUITRY_SECRET_KEY: newKey(), CIRCUITRY_OTHER_SECRET_KEYS: old })
  // Cut off before anything was sealed anew: a server starts with both.
  forgetStates()
  await readInstallation()
  expect(await setupCodeOf(lead, jobId, unitId, 'Looking')).toEqual({ code })
  expect((await changeKey(true)).get('events')).toBeGreaterThan(0)
  // Begun anew without being told again that it was leaked.
  expect(await changeKey(false)).toEqual(new Map())
  expect(await sealAllAnew()).toEqual(new Map())
  delete process.env.CIRCUITRY_OTHER_SECRET_KEYS
  const visitId = uuid()
  const now = today()
  process.env.CIRCUITRY_SECRET_KEY = old
  const forged = linkKey('visit', visitId)
  process.env.CIRCUITRY_SECRET_KEY = now
  expect(opens('visit', forged, visitId)).toBe(false)
  // The key of before alone is no key of this database any more.
  process.env.CIRCUITRY_SECRET_KEY = old
  await expect(readInstallation()).rejects.toThrow('sealed with another key')
  process.env.CIRCUITRY_SECRET_KEY = now
  await readInstallation()
})

test('a text is sealed anew only where there is something to do', () => {
  expect(sealedAnew('plain')).toBeNull()
  expect(sealedAnew(seal('one'))).toBeNull()
  const two = JSON.stringify({ a: sealedBefore('one'), b: seal('two'), c: ['v1', 2, 'v1:x:y:z'] })
  const { a, b, c } = JSON.parse(sealedAnew(two)!) as { a: string; b: string; c: unknown }
  expect([unseal(a), unseal(b), c]).toEqual(['one', 'two', ['v1', 2, 'v1:x:y:z']])
  expect(a.startsWith('v2:')).toBe(true)
  expect(() => unseal(`v2:AAAAAAAA:${sealedBefore('one').slice(3)}`)).toThrow('not here')
  expect(() => unseal('v3:a:b:c')).toThrow('Not a sealed secret')
})
