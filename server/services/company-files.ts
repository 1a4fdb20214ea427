import { createHash, randomBytes } from 'node:crypto'
import { mkdir, open, readFile, writeFile } from 'node:fs/promises'
import { createReadStream } from 'node:fs'
import { basename, join } from 'node:path'
import { createInterface } from 'node:readline'
import { QueryTypes, Transaction } from 'sequelize'
import { z } from 'zod'
import { writeRows } from '../../core/format/cells'
import program from '../../package.json' with { type: 'json' }
import { database } from '../database'
import { movedFingerprint } from '../database/secret-key'
import { inAnyOrder, textIn, type PlainRow, type PlainValue } from '../database/tables-here'
import { companyTables, ofTheMoment, removeLeftovers, rowsOf, type CompanyTable } from './companies'
import { ApiError } from './errors'
import { deviceKeyFor, keepDeviceKeys } from './installation'
import { seal, sealedAnew, unseal } from './secrets'

/** A company as a folder of open files: a line of JSON for each row, pictures as they are, tables for people. */
const sheetSchema = z.object({
  format: z.literal('circuitry-company'),
  version: z.literal(1),
  madeAt: z.iso.datetime(),
  program: z.string(),
  /** The newest change of the tables: what reads it has the same. */
  migration: z.string(),
  company: z.object({ id: z.uuid(), name: z.string() }),
  /** Nobody worked there any more when it was written. */
  closed: z.boolean(),
  tables: z.record(z.string(), z.object({ rows: z.int(), sha256: z.string() })),
  pictures: z.int(),
})
export type CompanySheet = z.infer<typeof sheetSchema>

/** Rows at once; of pictures fewer, they are in memory together. */
const [someRows, somePictures] = [500, 8]
/** Whoever has the folder without its passphrase guesses at none of them. */
const sealedToo = ['password_hash', 'pin_hash', 'key_hash', 'code_hash', 'token_hash']
/** Made again where it is asked for. */
const madeAgain = ['small']
const digest = (bytes: Buffer | string) => createHash('sha256').update(bytes).digest('hex')
const endings: Record<string, string> = { 'image/jpeg': 'jpg', 'image/png': 'png', 'image/webp': 'webp' }

const newestMigration = async (): Promise<string> => {
  const [row] = await database().sequelize.query<{ name: string }>('SELECT MAX(name) AS name FROM sequelize_meta', {
    type: QueryTypes.SELECT,
  })
  return row!.name
}
/** Tables for people, from the rows as they are: none of what is sealed. */
const papers: Record<string, string[]> = {
  people: ['name', 'initials', 'login', 'role', 'licensed', 'active'],
  customers: ['id', 'name', 'phone', 'email'],
  sites: ['id', 'customer_id', 'name', 'address', 'year_built', 'longitude', 'latitude'],
  jobs: ['id', 'site_id', 'number', 'title', 'created_at', 'status', 'points', 'passed', 'failed', 'open_defects', 'handed_over_at'],
  visits: ['id', 'job_id', 'kind', 'status', 'starts_at', 'ends_at', 'arrived_at', 'finished_at'],
  units: ['job_id', 'place', 'model', 'serial', 'name', 'installed_at', 'removed_at', 'removed_to'],
  callbacks: ['job_id', 'unit_id', 'what', 'status', 'cause', 'remedy', 'opened_at', 'closed_at', 'payer'],
  articles: ['kind', 'maker', 'name', 'gtin', 'price_cents', 'active'],
}

export interface Keys {
  /** What the sealed values of the folder open with, 32 bytes in base64. */
  key: string
  /** What each person’s devices seal with, so that what waits there opens after the move. */
  devices: Record<string, string>
}

async function writeTable(
  folder: string,
  table: CompanyTable,
  companyId: string,
  key: Buffer,
  query: (sql: string, values: unknown[]) => Promise<PlainRow[]>,
): Promise<{ rows: number; sha256: string; pictures: number }> {
  const file = await open(join(folder, 'tables', `${table.name}.ndjson`), 'wx', 0o600)
  const paper = papers[table.name]
  const lines: object[] = []
  const hash = createHash('sha256')
  let [rows, pictures] = [0, 0]
  /** A value as it stands in the folder. */
  async function plain(row: PlainRow, name: string): Promise<unknown> {
    const value = row[name]!
    if (value === null || madeAgain.includes(name)) return null
    if (value instanceof Buffer) {
      const picture = `${String(row[table.key[0]!])}.${endings[String(row.mime)] ?? 'bin'}`
      await writeFile(join(folder, 'pictures', picture), value, { mode: 0o600, flag: 'wx' })
      pictures++
      return { picture, sha256: digest(value) }
    }
    const text = textIn(value)
    if (text === null) return value
    return sealedToo.includes(name) ? seal(text, key) : (sealedAnew(text, key) ?? text)
  }
  try {
    for await (const some of rowsOf(table, companyId, query, table.name === 'photos' ? somePictures : someRows)) {
      const texts: string[] = []
      for (const row of some) {
        const line: Record<string, unknown> = {}
        for (const { name } of table.columns) line[name] = await plain(row, name)
        // What tells its content is bound to a key that stays.
        if (table.name === 'commands') line.fingerprint = movedFingerprint
        if (table.name === 'companies') line.moved_to = null
        texts.push(`${JSON.stringify(line)}\n`)
        if (paper)
          lines.push(Object.fromEntries(paper.map((name) => [name, row[name] instanceof Date ? row[name].toISOString() : row[name]])))
      }
      const bytes = Buffer.from(texts.join(''))
      hash.update(bytes)
      await file.writeFile(bytes)
      rows += some.length
    }
  } finally {
    await file.close()
  }
  if (paper) await writeFile(join(folder, 'csv', `${table.name}.csv`), `\ufeff${writeRows(paper, lines)}\r\n`, { mode: 0o600, flag: 'wx' })
  return { rows, sha256: hash.digest('hex'), pictures }
}

/**
 * Writes a company into a new folder, all of one moment, while others work.
 * @returns its sheet, and the keys that are to be sealed beside it
 * @throws ApiError 409 where somebody wrote meanwhile though it was closed
 */
export async function writeCompany(company: { id: string; name: string; movedTo: string | null }, folder: string, at = new Date()) {
  const { sequelize, models } = database()
  for (const part of ['', 'tables', 'pictures', 'csv']) await mkdir(join(folder, part), { mode: 0o700, recursive: part !== '' })
  const key = randomBytes(32)
  const tables: CompanySheet['tables'] = {}
  let pictures = 0
  // One moment: what others write meanwhile is not seen. It is read only, and nothing of it is tried again half way.
  // eslint-disable-next-line no-restricted-syntax -- read only, and files are written beside it: never done twice.
  const transaction = await sequelize.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ, readOnly: true })
  let seq = 0
  try {
    const query = (sql: string, values: unknown[]) =>
      sequelize.query<PlainRow>(sql, { replacements: values, type: QueryTypes.SELECT, transaction })
    seq = Number((await models.feeds.findByPk(company.id, { transaction, raw: true }))?.seq ?? 0)
    for (const table of await companyTables()) {
      if (ofTheMoment.includes(table.name)) continue
      const { pictures: some, ...written } = await writeTable(folder, table, company.id, key, query)
      tables[table.name] = written
      pictures += some
    }
  } finally {
    await transaction.rollback()
  }
  const closed = company.movedTo !== null
  if (closed && Number((await models.feeds.findByPk(company.id, { raw: true }))?.seq ?? 0) !== seq)
    throw new ApiError(
      409,
      'stillWritten',
      'Somebody’s last entry came in while it was written. Take it out once more, into another folder.',
    )
  const people = await models.people.findAll({ where: { companyId: company.id }, attributes: ['id'], raw: true })
  const devices: Keys['devices'] = {}
  for (const { id } of people) devices[id] = await deviceKeyFor(id)
  const sheet: CompanySheet = {
    ...{ format: 'circuitry-company', version: 1, madeAt: at.toISOString(), program: program.version, migration: await newestMigration() },
    ...{ company: { id: company.id, name: company.name }, closed, tables, pictures },
  }
  // Last: a folder without its sheet is not whole.
  await writeFile(join(folder, 'company.json'), `${JSON.stringify(sheet, null, 2)}\n`, { mode: 0o600, flag: 'wx' })
  return { sheet, keys: { key: key.toString('base64'), devices } satisfies Keys }
}

async function* linesIn(path: string): AsyncGenerator<string> {
  for await (const line of createInterface({ input: createReadStream(path, 'utf8'), crlfDelay: Infinity })) if (line) yield line
}
async function digestOf(path: string): Promise<string> {
  const hash = createHash('sha256')
  for await (const part of createReadStream(path)) hash.update(part as Buffer)
  return hash.digest('hex')
}

/**
 * Looks at a folder before anything is made from it.
 * @throws ApiError 422 with what is wrong: not whole, not as it was written, or of another version of the program
 */
export async function readSheet(folder: string): Promise<CompanySheet> {
  const wrong = (code: string, message: string) => new ApiError(422, code, `${message} Nothing was changed.`)
  const text = await readFile(join(folder, 'company.json'), 'utf8').catch(() => {
    throw wrong('notWhole', `${folder} has no company.json: it is no company, or was not written to its end.`)
  })
  let sheet: CompanySheet
  try {
    sheet = sheetSchema.parse(JSON.parse(text))
  } catch {
    throw wrong('notACompany', 'Its company.json is not one of this program.')
  }
  const newest = await newestMigration()
  if (sheet.migration !== newest)
    throw wrong(
      'otherVersion',
      `It was written by another version of the program (${sheet.migration}, here ${newest}). Bring both to one first.`,
    )
  const known = new Set((await companyTables()).map(({ name }) => name))
  for (const [name, { sha256 }] of Object.entries(sheet.tables)) {
    if (!known.has(name)) throw wrong('notACompany', `It has a table ${name}, which is none of a company.`)
    const found = await digestOf(join(folder, 'tables', `${name}.ndjson`)).catch(() => null)
    if (found !== sha256) throw wrong('notAsWritten', `tables/${name}.ndjson is not as it was written.`)
  }
  return sheet
}

const pictureIn = z.strictObject({ picture: z.string().regex(/^[\w.-]+$/), sha256: z.string() })
/** A value of the folder as the database takes it. */
async function valueIn(folder: string, { name, kind }: { name: string; kind: string }, value: unknown): Promise<PlainValue> {
  if (value === null || value === undefined) return null
  if (/blob/.test(kind)) {
    const { picture, sha256 } = pictureIn.parse(value)
    const bytes = await readFile(join(folder, 'pictures', basename(picture)))
    if (digest(bytes) !== sha256) throw new ApiError(422, 'notAsWritten', `pictures/${picture} is not as it was written.`)
    return bytes
  }
  // As a text: a date among the values of a statement would lose its milliseconds.
  if (kind === 'datetime') return z.iso.datetime().parse(value).replace('T', ' ').replace('Z', '')
  if (typeof value !== 'string') return value as number
  return sealedToo.includes(name) ? unseal(value) : (sealedAnew(value) ?? value)
}
/** Bytes of one statement, about. */
const mostBytes = 4_000_000
async function fillTable(folder: string, companyId: string, { name, columns }: CompanyTable): Promise<number> {
  const { sequelize } = database()
  const names = columns.map((column) => `\`${column.name}\``).join()
  let rows = 0
  async function insert(some: PlainValue[][]): Promise<void> {
    await inAnyOrder((transaction) =>
      sequelize.query(`INSERT INTO \`${name}\` (${names}) VALUES ${some.map(() => `(${columns.map(() => '?').join()})`).join()}`, {
        replacements: some.flat(),
        transaction,
      }),
    )
    rows += some.length
  }
  let [waiting, bytes]: [PlainValue[][], number] = [[], 0]
  for await (const line of linesIn(join(folder, 'tables', `${name}.ndjson`))) {
    const row = JSON.parse(line) as Record<string, unknown>
    if ((row.company_id ?? companyId) !== companyId) throw new ApiError(422, 'notACompany', `A row of ${name} is another company’s.`)
    const values: PlainValue[] = []
    for (const column of columns) values.push(await valueIn(folder, column, row[column.name]))
    bytes += line.length + values.reduce<number>((sum, value) => sum + (value instanceof Buffer ? value.length : 0), 0)
    waiting.push(values)
    if (bytes > mostBytes || waiting.length >= someRows) {
      await insert(waiting)
      waiting = []
      bytes = 0
    }
  }
  if (waiting.length) await insert(waiting)
  return rows
}

/** Everybody’s page is fetched anew by this: no device’s place in the feed is near it. */
const feedJump = 1_000_000
/**
 * Brings a company here, while others work; its people come in once all of it is there. The key of its folder is among the other keys.
 * One that was cut off is begun anew.
 * @throws ApiError 409 where it is here already
 */
export async function readCompany(folder: string, devices: Keys['devices']): Promise<CompanySheet> {
  const sheet = await readSheet(folder)
  const { models, sequelize } = database()
  if (await models.companies.count({ where: { id: sheet.company.id } }))
    throw new ApiError(
      409,
      'companyThere',
      `${sheet.company.name} is here already. Nothing was changed. One that is closed here is removed before it comes back.`,
    )
  await removeLeftovers(sheet.company.id)
  for (const table of await companyTables('coming')) {
    const said = sheet.tables[table.name]
    if (!said) continue
    if (table.name === 'people')
      await sequelize.query('UPDATE feeds SET seq = seq + ? WHERE company_id = ?', { replacements: [feedJump, sheet.company.id] })
    const rows = await fillTable(folder, sheet.company.id, table)
    if (rows !== said.rows) throw new ApiError(422, 'notAsWritten', `Of ${said.rows} rows of ${table.name} ${rows} are there.`)
  }
  await keepDeviceKeys(devices)
  return sheet
}
