import { DataTypes } from 'sequelize'

/** A column: its type in the database, and what a row holds there. */
export interface Column<T> {
  type: string | DataTypes.AbstractDataTypeConstructor | DataTypes.AbstractDataType
  /** For the compiler only. */
  holds?: T
}
const column = <T>(type: Column<T>['type']): Column<T> => ({ type })

export const id = column<string>(DataTypes.CHAR(36))
export const text = column<string>(DataTypes.STRING)
export const int = column<number>(DataTypes.INTEGER)
export const real = column<number>(DataTypes.DOUBLE)
export const flag = column<boolean>(DataTypes.BOOLEAN)
/** An instant, to the millisecond. */
export const time = column<Date>(DataTypes.DATE(3))
/** A day, YYYY-MM-DD. */
export const date = column<string>(DataTypes.DATEONLY)
export const json = column<unknown>(DataTypes.JSON)
export const blob = column<Buffer>(DataTypes.BLOB('medium'))

export const orNull = <T>(of: Column<T>) => of as Column<T | null>
/** A text that is one of few. */
export const as = <T extends string>(of: Column<string>) => of as unknown as Column<T>

export interface TableOf<C extends Record<string, Column<unknown>> = Record<string, Column<unknown>>> {
  name: string
  columns: C
  key: string[]
}
/** A row as a plain object. */
export type RowOf<T> = T extends TableOf<infer C> ? { [K in keyof C]: C[K] extends Column<infer V> ? V : never } : never

/** @param key columns of the primary key */
export const table = <C extends Record<string, Column<unknown>>>(
  name: string,
  columns: C,
  key: (keyof C & string)[] = ['id'],
): TableOf<C> => ({
  name,
  columns,
  key,
})
