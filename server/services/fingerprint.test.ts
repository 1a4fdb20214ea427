import { createHash } from 'node:crypto'
import { jest } from '@jest/globals'
import { database } from '../database'
import { up } from '../database/migrations/0021-keyed-fingerprints'
import { keyedFingerprint, keyedMark } from '../database/secret-key'
import { execute } from './commands'
import { makeCompany, open, openWorld, refusedWith, uuid } from '../testing/world'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const plain = (content: unknown[]) => createHash('sha256').update(JSON.stringify(content)).digest('hex')
async function given() {
  const { lead } = await makeCompany()
  const { jobId } = await open(lead)
  const command = { type: 'tickHandover', itemId: 'wall', done: true, rests: 'seen', photoId: null, note: '' } as const
  const envelope = {
    ...{ id: uuid(), stream: 'job' as const, streamId: jobId, at: new Date().toISOString() },
    basedOnSeq: 0,
    heldMs: 0,
    jobSeq: null,
    command,
  }
  return { lead, envelope, content: ['job', jobId, command] }
}
const stored = async (id: string) => (await database().models.commands.findByPk(id, { raw: true }))!.fingerprint

test('whoever has the database cannot try what was in a command: its fingerprint carries a key', async () => {
  const { lead, envelope, content } = await given()
  const answer = await execute(envelope, lead)
  expect(answer.status).toBe('accepted')
  expect(await stored(envelope.id)).not.toContain(plain(content))
  expect((await stored(envelope.id)).startsWith(keyedMark)).toBe(true)
  const key = process.env.CIRCUITRY_SECRET_KEY
  const with1 = keyedFingerprint('a')
  process.env.CIRCUITRY_SECRET_KEY = Buffer.alloc(32, 9).toString('base64')
  expect(keyedFingerprint('a')).not.toBe(with1)
  process.env.CIRCUITRY_SECRET_KEY = key
})
test('what was stored before is keyed too, once, and repeated commands are known after it', async () => {
  const { lead, envelope } = await given()
  const first = await execute(envelope, lead)
  const keyed = await stored(envelope.id)
  const { commands } = database().models
  // As it was stored by the program of before.
  const digest = plain(['job', envelope.streamId, envelope.command])
  await commands.update({ fingerprint: digest }, { where: { id: envelope.id } })
  const query = database().sequelize.getQueryInterface()
  await up(query)
  await up(query)
  expect(await stored(envelope.id)).toBe(keyed)
  expect(await execute(envelope, lead)).toEqual(first)
  const other = { ...envelope, command: { ...envelope.command, done: false } }
  expect(((await refusedWith(execute(other, lead))) as unknown[])[0]).toBe(409)
})
