import { QueryTypes, type QueryInterface } from 'sequelize'
import { keyedFingerprint, keyedMark } from '../secret-key'

const atOnce = 500

/** Fingerprints of commands could be searched for the setup code in them: they carry a key now. Begun anew, it goes on where it was. */
export async function up(query: QueryInterface): Promise<void> {
  for (;;) {
    const rows = await query.sequelize.query<{ id: string; fingerprint: string }>(
      'SELECT id, fingerprint FROM commands WHERE fingerprint NOT LIKE ? LIMIT ?',
      { replacements: [`${keyedMark}%`, atOnce], type: QueryTypes.SELECT },
    )
    if (rows.length === 0) return
    await query.sequelize.query(
      `UPDATE commands SET fingerprint = CASE id ${rows.map(() => 'WHEN ? THEN ?').join(' ')} ELSE fingerprint END WHERE id IN (?)`,
      { replacements: [...rows.flatMap(({ id, fingerprint }) => [id, keyedFingerprint(fingerprint)]), rows.map(({ id }) => id)] },
    )
  }
}
