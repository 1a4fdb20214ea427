import { QueryTypes, type Transaction } from 'sequelize'
import { database, transacted } from './index'

/** A table as the database itself describes it, without columns that it computes. */
export interface TableHere {
  name: string
  /** Columns of its primary key. */
  key: string[]
  columns: { name: string; kind: string }[]
}
export async function tablesHere(): Promise<TableHere[]> {
  const rows = await database().sequelize.query<{ of: string; name: string; kind: string; inKey: number }>(
    `SELECT c.TABLE_NAME AS \`of\`, c.COLUMN_NAME AS name, c.DATA_TYPE AS kind, c.COLUMN_KEY = 'PRI' AS inKey
     FROM information_schema.COLUMNS c JOIN information_schema.TABLES t USING (TABLE_SCHEMA, TABLE_NAME)
     WHERE c.TABLE_SCHEMA = DATABASE() AND t.TABLE_TYPE = 'BASE TABLE' AND c.IS_GENERATED = 'NEVER' ORDER BY c.TABLE_NAME, c.ORDINAL_POSITION`,
    { type: QueryTypes.SELECT },
  )
  return [...new Set(rows.map((row) => row.of))].map((of) => {
    const own = rows.filter((row) => row.of === of)
    return {
      name: of,
      key: own.filter((row) => Number(row.inKey)).map(({ name }) => name),
      columns: own.map(({ name, kind }) => ({ name, kind })),
    }
  })
}

export type PlainValue = string | number | Buffer | Date | null
/** What a column of text holds: the driver reads one of JSON as what it says. null: it is no text. */
export const textIn = (value: unknown): string | null => {
  if (typeof value === 'string') return value
  return typeof value === 'object' && value !== null && !(value instanceof Date) && !(value instanceof Buffer)
    ? JSON.stringify(value)
    : null
}
export type PlainRow = Record<string, PlainValue>
export const quoted = (names: string[]) => names.map((name) => `\`${name}\``)

/** The order of the key, and what comes after a row in it, column by column: one comparison of all would not go by the index. */
export function afterRow(key: string[], last: PlainRow | null): { words: string; values: PlainValue[] } {
  if (!last) return { words: 'TRUE', values: [] }
  const names = quoted(key)
  const parts = key.map((_, at) => [...names.slice(0, at).map((name) => `${name} = ?`), `${names[at]} > ?`].join(' AND '))
  return {
    words: `(${parts.map((part) => `(${part})`).join(' OR ')})`,
    values: key.flatMap((_, at) => key.slice(0, at + 1).map((one) => last[one]!)),
  }
}

/** A transaction in which rows come and go in any order: what they refer to may not be there yet, or not any more. */
export const inAnyOrder = (work: (transaction: Transaction) => Promise<unknown>): Promise<void> =>
  transacted(async (transaction) => {
    const { sequelize } = database()
    await sequelize.query('SET foreign_key_checks = 0', { transaction })
    try {
      await work(transaction)
    } finally {
      await sequelize.query('SET foreign_key_checks = 1', { transaction })
    }
  })
