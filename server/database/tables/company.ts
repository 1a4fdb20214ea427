import type { InstrumentKind } from '../../../core/site'
import type { PersonRole } from '../../../core/stream'
import type { SchemeId } from '../../../core/units'
import { as, date, flag, id, int, json, orNull, table, text, time, type RowOf } from './columns'

export const companies = table('companies', {
  id,
  name: text,
  createdAt: time,
  /** It works elsewhere now, at this address where one was told; null: it works here. */
  movedTo: orNull(text),
  /** So long after the last that was done for them customers are due to be erased, years; null: they are kept. */
  keepCustomersYears: orNull(int),
  keepPicturesYears: orNull(int),
})
export type CompanyRow = RowOf<typeof companies>

export const branches = table('branches', {
  id,
  companyId: id,
  name: text,
  schemeId: as<SchemeId>(text),
  timezone: text,
  settings: json,
})
export type BranchRow = RowOf<typeof branches>

export const people = table('people', {
  id,
  companyId: id,
  branchId: id,
  login: text,
  name: text,
  initials: text,
  role: as<PersonRole>(text),
  licensed: flag,
  active: flag,
  passwordHash: text,
  sessionEpoch: int,
  pinHash: orNull(text),
  /** The van they drive, a place of the stock. */
  vanId: orNull(id),
  skills: json,
})
export type PersonRow = RowOf<typeof people>

export const instruments = table('instruments', {
  id,
  companyId: id,
  branchId: id,
  name: text,
  serial: text,
  kind: as<InstrumentKind>(text),
  calibrationDue: date,
  active: flag,
  /** Of a two-pole detector, V. */
  lowestStepVolts: orNull(int),
  outOfService: flag,
  failedWhy: text,
  provedGoodAt: orNull(time),
  serviceNote: text,
})
export type InstrumentRow = RowOf<typeof instruments>

export const models = table('models', {
  id,
  companyId: id,
  maker: text,
  name: text,
  active: flag,
  data: text,
})
export type ModelRow = RowOf<typeof models>

/** Boxes, plates, connectors and lamps. */
export const parts = table('parts', {
  id,
  companyId: id,
  kind: text,
  maker: text,
  name: text,
  active: flag,
  data: text,
})

/** Who is logged in on which device. */
export const sessions = table('sessions', { id, companyId: id, personId: id, device: text, madeAt: time, seenAt: time })
