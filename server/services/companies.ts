import { QueryTypes } from 'sequelize'
import { database, transacted } from '../database'
import { afterRow, inAnyOrder, quoted, tablesHere, type PlainRow } from '../database/tables-here'
import { ApiError } from './errors'

/**
 * @param who its own people, or a customer with a link
 * @throws ApiError 403 where the company works elsewhere now: what was written here would be known to nobody
 */
export async function needHere(companyId: string, who: 'crew' | 'customer' = 'crew'): Promise<void> {
  const company = await database().models.companies.findByPk(companyId, { attributes: ['movedTo'], raw: true })
  if (company?.movedTo === null) return
  const where = company?.movedTo
  const said = {
    crew: where
      ? `This company has moved. Open ${where}: logins and passwords are the same.`
      : 'This company is being moved. Try again in a while: logins and passwords stay the same.',
    customer: 'This page has moved. Ask the company for a new link.',
  }
  throw new ApiError(403, 'companyMoved', said[who])
}

export interface CompanyHere {
  id: string
  name: string
  people: number
  homes: number
  jobs: number
  movedTo: string | null
}
export const companiesHere = async (): Promise<CompanyHere[]> =>
  database().sequelize.query<CompanyHere>(
    `SELECT c.id, c.name, c.moved_to AS movedTo, (SELECT COUNT(*) FROM people p WHERE p.company_id = c.id AND p.active) AS people,
      (SELECT COUNT(*) FROM sites s WHERE s.company_id = c.id) AS homes, (SELECT COUNT(*) FROM jobs j WHERE j.company_id = c.id) AS jobs
     FROM companies c ORDER BY c.name, c.id`,
    { type: QueryTypes.SELECT },
  )
/** @param said its name, or its id where two have one name. @throws ApiError 404, 409 */
export async function companyCalled(said: string): Promise<CompanyHere> {
  const found = (await companiesHere()).filter(({ id, name }) => id === said || name === said)
  if (!found.length) throw new ApiError(404, 'noCompany', `There is no company called “${said}” here.`)
  if (found.length > 1)
    throw new ApiError(409, 'whichCompany', `Several companies are called “${said}”. Say which: ${found.map(({ id }) => id).join(', ')}.`)
  return found[0]!
}

/** How rows say whose they are, in tables that name no company themselves. */
const belongsBy: Record<string, string> = {
  companies: 'id = ?',
  visit_people: 'visit_id IN (SELECT id FROM visits WHERE company_id = ?)',
  calendar_links: 'person_id IN (SELECT id FROM people WHERE company_id = ?)',
}
/** Of the place, not of a company. */
export const ofThePlace = ['fixed_rows', 'installation', 'sequelize_meta', 'throttle']
/** Of who is here now: worth nothing elsewhere. */
export const ofTheMoment = ['sessions', 'connections', 'presence']

export interface CompanyTable {
  name: string
  key: string[]
  columns: { name: string; kind: string }[]
  /** Its rows of a company; takes the company’s id once. */
  where: string
}
/** So that what says whose the rows of others are is there for as long as they are, going and coming; its people come in last of all. */
const orders = {
  going: ['visits', 'people', 'companies'],
  coming: ['visits', 'visit_people', 'people', 'calendar_links', 'companies'],
}
/** Every table that holds something of a company, in the order in which its rows go or come. @throws Error on one of which nobody said whose it is */
export async function companyTables(order: keyof typeof orders = 'going'): Promise<CompanyTable[]> {
  const tables = (await tablesHere()).flatMap((table): CompanyTable[] => {
    if (ofThePlace.includes(table.name)) return []
    const where = belongsBy[table.name] ?? (table.columns.some(({ name }) => name === 'company_id') ? 'company_id = ?' : null)
    if (!where) throw new Error(`Whose the rows of ${table.name} are is said nowhere.`)
    return [{ ...table, where }]
  })
  const last = orders[order]
  return tables.sort((a, b) => last.indexOf(a.name) - last.indexOf(b.name))
}

/** What of a company is going on right now that nobody should lose sight of, a sentence each. */
export async function goingOnAt(companyId: string): Promise<string[]> {
  const { models } = database()
  const [tags, alarms, alone] = await Promise.all([
    models.hangingTags.findAll({ where: { companyId }, raw: true }),
    models.openAlarms.findAll({ where: { companyId }, raw: true }),
    models.soloWatches.findAll({ where: { companyId }, raw: true }),
  ])
  const homes = new Map(
    (await models.sites.findAll({ where: { id: [...tags, ...alarms, ...alone].map(({ siteId }) => siteId) }, raw: true })).map((site) => [
      site.id,
      site.name,
    ]),
  )
  return [
    ...tags.map(({ siteId, initials, breakerNumber }) => `${homes.get(siteId)}: a tag of ${initials} hangs at ${breakerNumber}.`),
    ...alarms.map(({ siteId, what }) => `${homes.get(siteId)}: an alarm is open: ${what}.`),
    ...alone.map(({ siteId, name }) => `${homes.get(siteId)}: ${name} works alone and is waited for.`),
  ]
}
/** The work of a company ends here: nobody is logged in any more, nobody comes in, its links write nothing. @param to where it works next, '' is not said yet */
export async function closeHere(companyId: string, to: string): Promise<void> {
  const { models } = database()
  await transacted(async (transaction) => {
    await models.companies.update({ movedTo: to }, { where: { id: companyId }, transaction })
    await models.people.increment('sessionEpoch', { where: { companyId }, transaction })
    await models.sessions.destroy({ where: { companyId }, transaction })
  })
}
/** It works here after all. */
export const openHere = async (companyId: string): Promise<void> =>
  void (await database().models.companies.update({ movedTo: null }, { where: { id: companyId } }))

const atOnce = 1_000
/** Removes every row of a company, for good, a thousand at a time: others work meanwhile. @returns how many rows went */
export async function removeCompany(companyId: string): Promise<number> {
  const { sequelize } = database()
  await closeHere(companyId, '')
  let gone = 0
  for (const { name, key, where } of await companyTables()) {
    for (;;) {
      const rows = await sequelize.query<PlainRow>(`SELECT ${quoted(key).join()} FROM \`${name}\` WHERE ${where} LIMIT ${atOnce}`, {
        replacements: [companyId],
        type: QueryTypes.SELECT,
      })
      if (!rows.length) break
      const itsKey = `(${quoted(key)
        .map((one) => `${one} = ?`)
        .join(' AND ')})`
      await inAnyOrder((transaction) =>
        sequelize.query(`DELETE FROM \`${name}\` WHERE ${rows.map(() => itsKey).join(' OR ')}`, {
          replacements: rows.flatMap((row) => key.map((one) => row[one]!)),
          transaction,
        }),
      )
      gone += rows.length
    }
  }
  return gone
}
/** What an import that was cut off left: rows of a company that is not there. */
export async function removeLeftovers(companyId: string): Promise<void> {
  if (await database().models.companies.count({ where: { id: companyId } })) return
  await removeCompany(companyId)
}

/** Rows of a table of a company in the order of its key, some at a time. */
export async function* rowsOf(
  { name, key, columns, where }: CompanyTable,
  companyId: string,
  query: (sql: string, values: unknown[]) => Promise<PlainRow[]>,
  some: number,
): AsyncGenerator<PlainRow[]> {
  let last: PlainRow | null = null
  for (;;) {
    const after = afterRow(key, last)
    const rows: PlainRow[] = await query(
      `SELECT ${quoted(columns.map((one) => one.name)).join()} FROM \`${name}\` WHERE ${where} AND ${after.words} ORDER BY ${quoted(key).join()} LIMIT ${some}`,
      [companyId, ...after.values],
    )
    if (rows.length) yield rows
    if (rows.length < some) return
    last = rows.at(-1)!
  }
}
