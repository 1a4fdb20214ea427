import type { Model, ModelStatic, Sequelize } from 'sequelize'
import * as access from './tables/access'
import type { RowOf, TableOf } from './tables/columns'
import * as erasures from './tables/erasures'
import * as company from './tables/company'
import * as homes from './tables/homes'
import * as links from './tables/links'
import * as requests from './tables/requests'
import * as promises from './tables/promises'
import * as records from './tables/records'
import * as sales from './tables/sales'
import * as safety from './tables/safety'
import * as stock from './tables/stock'
import * as work from './tables/work'

/** Each table once: shapes follow the migrations, which are the truth. */
const tables = {
  ...access,
  ...company,
  ...erasures,
  ...homes,
  ...links,
  ...promises,
  ...requests,
  ...records,
  ...safety,
  ...sales,
  ...stock,
  ...work,
}

export type Models = { [K in keyof typeof tables]: ModelStatic<Model<RowOf<(typeof tables)[K]>> & RowOf<(typeof tables)[K]>> }

/** All tables, defined on one connection. */
export function defineModels(sequelize: Sequelize): Models {
  const models = Object.fromEntries(Object.entries(tables).map(([name, table]) => [name, define(sequelize, table)])) as unknown as Models
  associate(models)
  return models
}

function define(sequelize: Sequelize, { name, columns, key }: TableOf) {
  const attributes = Object.fromEntries(
    Object.entries(columns).map(([column, { type }]) => [column, { type, primaryKey: key.includes(column) }]),
  )
  return sequelize.define(name, attributes, { tableName: name, freezeTableName: true })
}

/** What a row belongs to, for reading both at once. The database's own constraints are the migrations' business. */
function associate({ callbacks, customers, devicesOut, jobs, openAlarms, people, sites, units, visitPeople, visits }: Models): void {
  const belongs = (from: ModelStatic<Model>, to: ModelStatic<Model>, as: string) =>
    from.belongsTo(to, { as, foreignKey: `${as}Id`, constraints: false })
  belongs(sites, customers, 'customer')
  belongs(jobs, sites, 'site')
  belongs(jobs, customers, 'customer')
  belongs(visits, sites, 'site')
  belongs(visits, jobs, 'job')
  belongs(visitPeople, visits, 'visit')
  belongs(visitPeople, people, 'person')
  visits.hasMany(visitPeople, { as: 'crew', foreignKey: 'visitId', constraints: false })
  belongs(units, sites, 'site')
  belongs(units, jobs, 'job')
  belongs(callbacks, jobs, 'job')
  belongs(callbacks, sites, 'site')
  belongs(callbacks, units, 'unit')
  belongs(openAlarms, sites, 'site')
  belongs(devicesOut, jobs, 'job')
  belongs(devicesOut, sites, 'site')
}

export type { BranchRow, CompanyRow, InstrumentRow, ModelRow, PersonRow } from './tables/company'
export type { CallbackRow, DeviceOutRow, JobRow, UnitRow, VisitRow } from './tables/work'
export type { DeviceLinkRow, LinkAskRow } from './tables/links'
export type { ErasureRow } from './tables/erasures'
export type { QuoteRow } from './tables/sales'
export type { RequestRow } from './tables/requests'
export type { HomePageRow, MessageRow, VisitPageRow } from './tables/promises'
export type { CustomerRow, SiteRow } from './tables/homes'
export type { EventRow, StreamRow } from './tables/records'
export type { OpenAlarmRow } from './tables/safety'
