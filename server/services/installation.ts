import { Op } from 'sequelize'
import { people, type Restored } from '../../core/protocol'
import { database } from '../database'
import { seal, unseal } from './secrets'

const canary = 'keyCanary'
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
  // Several servers may start at once: the first one's stands.
  if (!known) await installation.bulkCreate([{ name: canary, value: seal('Circuitry') }], { ignoreDuplicates: true })
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
