import { QueryTypes, type Transaction } from 'sequelize'
import { database, transacted } from '../database'
import { afterRow, quoted, tablesHere, textIn, type PlainRow } from '../database/tables-here'
import { formerKeys, otherKeys, secretKey, type FormerKey } from '../database/secret-key'
import { keepFormerKeys, readInstallation } from './installation'
import { sealedAnew } from './secrets'

/** So many rows are looked at in one transaction: whoever works meanwhile waits for no more. */
const atOnce = 200

const textKinds = ['varchar', 'text', 'mediumtext', 'longtext']
/** Tables with their columns in which something sealed can stand. */
async function tablesWithTexts(): Promise<Table[]> {
  return (await tablesHere()).flatMap(({ name, key, columns }) => {
    const texts = columns.filter((one) => textKinds.includes(one.kind) && !key.includes(one.name)).map((one) => one.name)
    return texts.length ? [{ name, key, texts }] : []
  })
}
interface Table {
  name: string
  key: string[]
  texts: string[]
}

/** Keys of the next rows in which something is sealed. */
function nextKeys({ name, key, texts }: Table, last: PlainRow | null): Promise<PlainRow[]> {
  const after = afterRow(key, last)
  const sealed = quoted(texts).map((text) => `${text} REGEXP 'v[12]:[A-Za-z0-9_-]{8}'`)
  return database().sequelize.query<PlainRow>(
    `SELECT ${quoted(key).join()} FROM \`${name}\` WHERE ${after.words} AND (${sealed.join(' OR ')}) ORDER BY ${quoted(key).join()} LIMIT ${atOnce}`,
    { replacements: after.values, type: QueryTypes.SELECT },
  )
}
/** Seals these rows anew; nobody changes one between the reading and the writing of it. @returns how many were changed */
async function sealRows({ name, key, texts }: Table, rows: PlainRow[], transaction: Transaction): Promise<number> {
  const { sequelize } = database()
  const itsKey = quoted(key)
    .map((one) => `${one} = ?`)
    .join(' AND ')
  let changed = 0
  for (const { values } of rows.map((row) => ({ values: key.map((one) => row[one]!) }))) {
    const [row] = await sequelize.query<PlainRow>(`SELECT ${quoted(texts).join()} FROM \`${name}\` WHERE ${itsKey} FOR UPDATE`, {
      ...{ replacements: values, type: QueryTypes.SELECT, transaction },
    })
    const anew = texts.flatMap((text) => {
      const value = textIn(row?.[text])
      const made = value === null ? null : sealedAnew(value)
      return made === null ? [] : [{ text, made }]
    })
    if (!anew.length) continue
    changed++
    await sequelize.query(`UPDATE \`${name}\` SET ${anew.map(({ text }) => `\`${text}\` = ?`).join()} WHERE ${itsKey}`, {
      replacements: [...anew.map(({ made }) => made), ...values],
      transaction,
    })
  }
  return changed
}

/**
 * Seals everything with the key of today that another one sealed. Begun anew it goes on: what is done is done. Others may work meanwhile.
 * @returns how many rows were changed, by table
 */
export async function sealAllAnew(): Promise<Map<string, number>> {
  const changed = new Map<string, number>()
  for (const table of await tablesWithTexts()) {
    let rows: PlainRow[] = []
    do {
      rows = await nextKeys(table, rows.at(-1) ?? null)
      const done = await transacted((transaction) => sealRows(table, rows, transaction))
      if (done) changed.set(table.name, (changed.get(table.name) ?? 0) + done)
    } while (rows.length === atOnce)
  }
  return changed
}

/**
 * Changes the key of a database whose servers have the new one, and the one of before among the others. The one of before is kept
 * sealed, for what it signed and what tells a repeated command; nothing is sealed with it any more.
 * @param leaked somebody else may have it: links that it signed open nothing any more
 */
export async function changeKey(leaked: boolean): Promise<Map<string, number>> {
  await readInstallation()
  const today = secretKey().toString('base64')
  const all: FormerKey[] = [...formerKeys()]
  for (const key of otherKeys().map((one) => one.toString('base64'))) {
    const known = all.find((one) => one.key === key)
    if (known) known.leaked ||= leaked
    else if (key !== today) all.push({ key, leaked })
  }
  await keepFormerKeys(all)
  return sealAllAnew()
}
