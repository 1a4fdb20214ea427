import { DataTypes, type Model, type ModelStatic, type Sequelize } from 'sequelize'
import type { InstrumentKind } from '../../core/site'
import type { PersonRole, StreamKind } from '../../core/stream'
import type { SchemeId } from '../../core/units'

/** A row: attributes as columns, written whole. */
type Row<T extends object> = Model<T, T> & T
type Table<T extends object> = ModelStatic<Row<T>>

export interface CompanyRow {
  id: string
  name: string
  createdAt: Date
}
export interface BranchRow {
  id: string
  companyId: string
  name: string
  schemeId: SchemeId
  timezone: string
  settings: unknown
}
export interface PersonRow {
  id: string
  companyId: string
  branchId: string
  login: string
  name: string
  initials: string
  role: PersonRole
  licensed: boolean
  active: boolean
  passwordHash: string
  sessionEpoch: number
  pinHash: string | null
  pinFailures: number
  pinLockedUntil: Date | null
}
export interface CustomerRow {
  id: string
  companyId: string
  name: string
  phone: string
  email: string
}
export interface SiteRow {
  id: string
  companyId: string
  branchId: string
  customerId: string
  name: string
  address: string
  yearBuilt: number | null
  doorCodeSealed: string | null
}
export interface JobRow {
  id: string
  companyId: string
  branchId: string
  siteId: string
  customerId: string
  number: number
  title: string
  createdAt: Date
  status: string
  points: number
  passed: number
  failed: number
  openDefects: number
}
export interface StreamRow {
  id: string
  kind: StreamKind
  companyId: string
  branchId: string
  seq: number
  snapshotVersion: number | null
  snapshotSeq: number
  snapshot: string | null
}
export interface EventRow {
  streamId: string
  seq: number
  id: string
  stream: StreamKind
  companyId: string
  commandId: string
  type: string
  version: number
  payload: string
  actor: string
  at: string
  receivedAt: string
}
export interface CommandRow {
  id: string
  companyId: string
  personId: string
  streamId: string
  fingerprint: string
  type: string
  outcome: string
  receivedAt: Date
}
export interface FeedEntryRow {
  companyId: string
  seq: number
  branchId: string | null
  topic: string
  streamId: string | null
  fromSeq: number | null
  toSeq: number | null
  at: Date
}
export interface VisitRow {
  id: string
  companyId: string
  branchId: string
  jobId: string
  siteId: string
  kind: string
  status: string
  callbackId: string | null
  startsAt: Date
  endsAt: Date
  windowFrom: Date
  windowTo: Date
  arrivedAt: Date | null
  finishedAt: Date | null
}
export interface VisitPersonRow {
  visitId: string
  personId: string
  position: number
}
export interface UnitRow {
  id: string
  companyId: string
  branchId: string
  jobId: string
  siteId: string
  boxId: string
  gang: number
  /** Room and box, in words. */
  place: string
  model: string
  serial: string
  name: string
  installedAt: Date
  removedAt: Date | null
  removedTo: string | null
}
export interface CallbackRow {
  id: string
  companyId: string
  branchId: string
  jobId: string
  siteId: string
  unitId: string
  what: string
  status: string
  causeKind: string | null
  remedy: string | null
  openedAt: Date
  closedAt: Date | null
}
export interface HangingTagRow {
  id: string
  companyId: string
  branchId: string
  siteId: string
  breakerId: string
  breakerNumber: string
  personId: string
  initials: string
  lockName: string
  hungAt: Date
}
export interface InstrumentRow {
  id: string
  companyId: string
  branchId: string
  name: string
  serial: string
  kind: InstrumentKind
  calibrationDue: string
  active: boolean
  /** Of a two-pole detector, V. */
  lowestStepVolts: number | null
  outOfService: boolean
  failedWhy: string
  provedGoodAt: Date | null
  serviceNote: string
}
export interface OpenAlarmRow {
  siteId: string
  personId: string
  seq: number
  companyId: string
  branchId: string
  what: string
  reportedBy: string
  place: string
  at: Date
  shownAt: Date | null
}
export interface ModelRow {
  id: string
  companyId: string
  maker: string
  name: string
  active: boolean
  data: string
}
export interface PhotoRow {
  id: string
  companyId: string
  branchId: string
  jobId: string
  mime: string
  bytes: Buffer
  uploadedBy: string
  uploadedAt: Date
}
export interface SecretReadRow {
  id: string
  companyId: string
  personId: string
  what: string
  refId: string
  at: Date
}
/** Where somebody is now, as far as their device says. One row a person. */
/** What somebody said of two records with one address. */
export interface HomeLinkRow {
  firstSiteId: string
  secondSiteId: string
  companyId: string
  said: 'same' | 'other'
  personId: string
  at: Date
}
export interface PresenceRow {
  personId: string
  companyId: string
  siteId: string
  /** 'walk', 'panel' or 'box:<id>'. */
  place: string
  connected: boolean
  seenAt: Date
}
/** Who works alone, and when they are to be heard of. */
export interface SoloWatchRow {
  siteId: string
  personId: string
  companyId: string
  branchId: string
  name: string
  contact: string
  dueAt: Date
}
export interface LoginAttemptRow {
  id: number | null
  login: string
  address: string
  at: Date
}

type Kind = 'id' | 'text' | 'int' | 'flag' | 'time' | 'date' | 'json' | 'blob'
const types = {
  id: DataTypes.CHAR(36),
  text: DataTypes.STRING,
  int: DataTypes.INTEGER,
  flag: DataTypes.BOOLEAN,
  time: DataTypes.DATE(3),
  date: DataTypes.DATEONLY,
  json: DataTypes.JSON,
  blob: DataTypes.BLOB('medium'),
}

function table<T extends object>(
  sequelize: Sequelize,
  tableName: string,
  columns: { [K in keyof T]: Kind },
  key: (keyof T & string)[] = ['id' as keyof T & string],
): Table<T> {
  const attributes = Object.fromEntries(
    Object.entries(columns as Record<string, Kind>).map(([name, kind]) => [
      name,
      {
        type: types[kind],
        primaryKey: key.includes(name as keyof T & string),
        autoIncrement: tableName === 'login_attempts' && name === 'id',
      },
    ]),
  )
  return sequelize.define(tableName, attributes, { tableName, freezeTableName: true }) as unknown as Table<T>
}

/** All tables, defined on one connection. Shapes follow the migrations, which are the truth. */
export function defineModels(sequelize: Sequelize) {
  return {
    companies: table<CompanyRow>(sequelize, 'companies', { id: 'id', name: 'text', createdAt: 'time' }),
    branches: table<BranchRow>(sequelize, 'branches', {
      id: 'id',
      companyId: 'id',
      name: 'text',
      schemeId: 'text',
      timezone: 'text',
      settings: 'json',
    }),
    people: table<PersonRow>(sequelize, 'people', {
      id: 'id',
      companyId: 'id',
      branchId: 'id',
      login: 'text',
      name: 'text',
      initials: 'text',
      role: 'text',
      licensed: 'flag',
      active: 'flag',
      passwordHash: 'text',
      sessionEpoch: 'int',
      pinHash: 'text',
      pinFailures: 'int',
      pinLockedUntil: 'time',
    }),
    customers: table<CustomerRow>(sequelize, 'customers', { id: 'id', companyId: 'id', name: 'text', phone: 'text', email: 'text' }),
    sites: table<SiteRow>(sequelize, 'sites', {
      id: 'id',
      companyId: 'id',
      branchId: 'id',
      customerId: 'id',
      name: 'text',
      address: 'text',
      yearBuilt: 'int',
      doorCodeSealed: 'text',
    }),
    jobs: table<JobRow>(sequelize, 'jobs', {
      id: 'id',
      companyId: 'id',
      branchId: 'id',
      siteId: 'id',
      customerId: 'id',
      number: 'int',
      title: 'text',
      createdAt: 'time',
      status: 'text',
      points: 'int',
      passed: 'int',
      failed: 'int',
      openDefects: 'int',
    }),
    streams: table<StreamRow>(sequelize, 'streams', {
      id: 'id',
      kind: 'text',
      companyId: 'id',
      branchId: 'id',
      seq: 'int',
      snapshotVersion: 'int',
      snapshotSeq: 'int',
      snapshot: 'text',
    }),
    events: table<EventRow>(
      sequelize,
      'events',
      {
        streamId: 'id',
        seq: 'int',
        id: 'id',
        stream: 'text',
        companyId: 'id',
        commandId: 'id',
        type: 'text',
        version: 'int',
        payload: 'text',
        actor: 'text',
        at: 'text',
        receivedAt: 'text',
      },
      ['streamId', 'seq'],
    ),
    commands: table<CommandRow>(sequelize, 'commands', {
      id: 'id',
      companyId: 'id',
      personId: 'id',
      streamId: 'id',
      fingerprint: 'text',
      type: 'text',
      outcome: 'text',
      receivedAt: 'time',
    }),
    feedEntries: table<FeedEntryRow>(
      sequelize,
      'feed_entries',
      { companyId: 'id', seq: 'int', branchId: 'id', topic: 'text', streamId: 'id', fromSeq: 'int', toSeq: 'int', at: 'time' },
      ['companyId', 'seq'],
    ),
    visits: table<VisitRow>(sequelize, 'visits', {
      id: 'id',
      companyId: 'id',
      branchId: 'id',
      jobId: 'id',
      siteId: 'id',
      kind: 'text',
      status: 'text',
      callbackId: 'id',
      startsAt: 'time',
      endsAt: 'time',
      windowFrom: 'time',
      windowTo: 'time',
      arrivedAt: 'time',
      finishedAt: 'time',
    }),
    visitPeople: table<VisitPersonRow>(sequelize, 'visit_people', { visitId: 'id', personId: 'id', position: 'int' }, [
      'visitId',
      'personId',
    ]),
    units: table<UnitRow>(sequelize, 'units', {
      id: 'id',
      companyId: 'id',
      branchId: 'id',
      jobId: 'id',
      siteId: 'id',
      boxId: 'id',
      gang: 'int',
      place: 'text',
      model: 'text',
      serial: 'text',
      name: 'text',
      installedAt: 'time',
      removedAt: 'time',
      removedTo: 'text',
    }),
    callbacks: table<CallbackRow>(sequelize, 'callbacks', {
      id: 'id',
      companyId: 'id',
      branchId: 'id',
      jobId: 'id',
      siteId: 'id',
      unitId: 'id',
      what: 'text',
      status: 'text',
      causeKind: 'text',
      remedy: 'text',
      openedAt: 'time',
      closedAt: 'time',
    }),
    hangingTags: table<HangingTagRow>(sequelize, 'hanging_tags', {
      id: 'id',
      companyId: 'id',
      branchId: 'id',
      siteId: 'id',
      breakerId: 'id',
      breakerNumber: 'text',
      personId: 'id',
      initials: 'text',
      lockName: 'text',
      hungAt: 'time',
    }),
    instruments: table<InstrumentRow>(sequelize, 'instruments', {
      id: 'id',
      companyId: 'id',
      branchId: 'id',
      name: 'text',
      serial: 'text',
      kind: 'text',
      calibrationDue: 'date',
      active: 'flag',
      lowestStepVolts: 'int',
      outOfService: 'flag',
      failedWhy: 'text',
      provedGoodAt: 'time',
      serviceNote: 'text',
    }),
    openAlarms: table<OpenAlarmRow>(
      sequelize,
      'open_alarms',
      {
        siteId: 'id',
        personId: 'id',
        seq: 'int',
        companyId: 'id',
        branchId: 'id',
        what: 'text',
        reportedBy: 'text',
        place: 'text',
        at: 'time',
        shownAt: 'time',
      },
      ['siteId', 'personId', 'seq'],
    ),
    models: table<ModelRow>(sequelize, 'models', { id: 'id', companyId: 'id', maker: 'text', name: 'text', active: 'flag', data: 'text' }),
    photos: table<PhotoRow>(sequelize, 'photos', {
      id: 'id',
      companyId: 'id',
      branchId: 'id',
      jobId: 'id',
      mime: 'text',
      bytes: 'blob',
      uploadedBy: 'id',
      uploadedAt: 'time',
    }),
    secretReads: table<SecretReadRow>(sequelize, 'secret_reads', {
      id: 'id',
      companyId: 'id',
      personId: 'id',
      what: 'text',
      refId: 'id',
      at: 'time',
    }),
    homeLinks: table<HomeLinkRow>(
      sequelize,
      'home_links',
      { firstSiteId: 'id', secondSiteId: 'id', companyId: 'id', said: 'text', personId: 'id', at: 'time' },
      ['firstSiteId', 'secondSiteId'],
    ),
    presence: table<PresenceRow>(
      sequelize,
      'presence',
      { personId: 'id', companyId: 'id', siteId: 'id', place: 'text', connected: 'flag', seenAt: 'time' },
      ['personId'],
    ),
    soloWatches: table<SoloWatchRow>(
      sequelize,
      'solo_watches',
      { siteId: 'id', personId: 'id', companyId: 'id', branchId: 'id', name: 'text', contact: 'text', dueAt: 'time' },
      ['siteId', 'personId'],
    ),
    loginAttempts: table<LoginAttemptRow>(sequelize, 'login_attempts', { id: 'int', login: 'text', address: 'text', at: 'time' }),
  }
}
export type Models = ReturnType<typeof defineModels>
