import { Op } from 'sequelize'
import { people, type Restored } from '../../core/protocol'
import { database } from '../database'
import { keyId, noteKeys, secretKey, type FormerKey } from '../database/secret-key'
import { deviceKeyOf, seal, unseal } from './secrets'

const [canary, formerName, firstName, sessionName] = ['keyCanary', 'formerKeys', 'firstKeyId', 'sessionKeyId'] as const
const sealedWith =
  'This database was sealed with another key. With this one no door code and no setup code could be read, and new ones would be sealed twice. Put back the credentials.json that belongs to it, or its keys from a backup (npm run restore).'

/**
 * Whether the key of this server is the one that the database was sealed with; on a new database it is from now on. Reads as well when it was put back.
 * @throws Error with a sentence where it is another
 */
export async function readInstallation(): Promise<void> {
  const { installation, sites } = database().models
  notePutBack(await installation.findByPk('restored', { raw: true }))
  const known = await installation.findByPk(canary, { raw: true })
  // Of before there was a canary: a door code tells as much.
  const sealed = known?.value ?? (await sites.findOne({ where: { doorCodeSealed: { [Op.ne]: null } }, raw: true }))?.doorCodeSealed
  if (sealed) {
    try {
      unseal(sealed)
    } catch {
      throw new Error(sealedWith)
    }
  }
  // Several servers may start at once: the first one's stands. What was sealed before there was a first key was by this one.
  const first = [{ name: firstName, value: keyId(secretKey()) }, ...(known ? [] : [{ name: canary, value: seal('Circuitry') }])]
  await installation.bulkCreate(first, { ignoreDuplicates: true })
  await readKeys()
}
/** Reads the keys of before. */
export async function readKeys(): Promise<void> {
  const { installation } = database().models
  const rows = await installation.findAll({ where: { name: [formerName, firstName] }, raw: true })
  const of = (name: string) => rows.find((row) => row.name === name)?.value
  const former = of(formerName)
  noteKeys(former ? (JSON.parse(unseal(former)) as FormerKey[]) : [], of(firstName)!)
}
/** Keeps keys that sealed here once, oldest first, sealed with today's. */
export async function keepFormerKeys(keys: FormerKey[]): Promise<void> {
  await database().models.installation.upsert({ name: formerName, value: seal(JSON.stringify(keys)) })
  await readKeys()
}

/** A mark of what logins are sealed with on this server. */
const sessionMark = () => keyId(Buffer.from(process.env.NUXT_SESSION_PASSWORD ?? ''))
/** A server that starts says what it seals logins with: those that seal otherwise would log out whoever comes to them from it. */
export async function noteSessionPassword(): Promise<void> {
  await database().models.installation.upsert({ name: sessionName, value: sessionMark() })
}
/** Whether another server, which started after this one, seals logins otherwise. */
export async function sessionsDiffer(): Promise<boolean> {
  const row = await database().models.installation.findByPk(sessionName, { raw: true })
  return row !== null && row.value !== sessionMark()
}

/** So long everybody is told that the record was put back. */
const toldForMs = 2 * 24 * 3_600_000
/** That this database was put back, and from when; read once: it is put back only while no server runs. */
let putBack: Restored | null = null
/** @param row what stands under `restored` */
export function notePutBack(row: { value: string } | null): void {
  putBack = row && people.restored.parse(JSON.parse(row.value))
}
/**
 * Whether something was said on a record that is gone since: its numbers may stand for other entries now, so whoever said it knew of none.
 * @param at the client’s clock
 */
export const saidBeforePutBack = (at: string): boolean => putBack !== null && Date.parse(at) < Date.parse(putBack.at)
/** That the database was put back from a backup a short while ago: what was recorded between is missing. */
export const restoredLately = (now = new Date()): Restored | null =>
  putBack && now.getTime() - Date.parse(putBack.at) < toldForMs ? putBack : null

const deviceName = (personId: string) => `dk:${personId}`
/** What a person’s devices seal with; of one whose company came from elsewhere, what they sealed with there. */
export async function deviceKeyFor(personId: string): Promise<string> {
  const row = await database().models.installation.findByPk(deviceName(personId), { raw: true })
  return row ? unseal(row.value) : deviceKeyOf(personId)
}
export async function keepDeviceKeys(keys: Record<string, string>): Promise<void> {
  const rows = Object.entries(keys).map(([personId, key]) => ({ name: deviceName(personId), value: seal(key) }))
  await database().models.installation.bulkCreate(rows, { updateOnDuplicate: ['value'] })
}
