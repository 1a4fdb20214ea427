import type { oldUnitFates, ReturnOutcome, ReturnStage } from '../../../core/job'
import { as, blob, date, flag, id, int, orNull, table, text, time, type RowOf } from './columns'

export const jobs = table('jobs', {
  id,
  companyId: id,
  branchId: id,
  siteId: id,
  customerId: id,
  number: int,
  title: text,
  createdAt: time,
  status: text,
  points: int,
  passed: int,
  failed: int,
  openDefects: int,
  handedOverAt: orNull(time),
})
export type JobRow = RowOf<typeof jobs>

export const visits = table('visits', {
  id,
  companyId: id,
  branchId: id,
  jobId: id,
  siteId: id,
  kind: text,
  status: text,
  callbackId: orNull(id),
  startsAt: time,
  endsAt: time,
  windowFrom: time,
  windowTo: time,
  setOffAt: orNull(time),
  expectedAt: orNull(time),
  arrivedAt: orNull(time),
  finishedAt: orNull(time),
})
export type VisitRow = RowOf<typeof visits>

export const preparedUnits = table(
  'prepared_units',
  { jobId: id, serial: text, companyId: id, branchId: id, failed: orNull(text), madeAt: time },
  ['jobId', 'serial'],
)

export const visitPeople = table(
  'visit_people',
  {
    visitId: id,
    personId: id,
    position: int,
  },
  ['visitId', 'personId'],
)

export const units = table('units', {
  id,
  companyId: id,
  branchId: id,
  jobId: id,
  siteId: id,
  boxId: id,
  gang: int,
  /** Room and box, in words. */
  place: text,
  model: text,
  serial: text,
  name: text,
  installedAt: time,
  removedAt: orNull(time),
  removedTo: orNull(text),
  /** By when the battery it runs on is changed; null: it runs on none, or is out. */
  batteryDue: orNull(date),
})
export type UnitRow = RowOf<typeof units>

export const callbacks = table('callbacks', {
  id,
  companyId: id,
  branchId: id,
  jobId: id,
  siteId: id,
  unitId: id,
  what: text,
  status: text,
  causeKind: orNull(text),
  remedy: orNull(text),
  openedAt: time,
  closedAt: orNull(time),
  causeId: orNull(text),
  cause: text,
  payer: orNull(text),
  callBackOn: orNull(date),
  /** Something dangerous was told. */
  danger: flag,
  /** Symptoms, answers and tries, as they were told: JSON. */
  said: orNull(text),
})

export type CallbackRow = RowOf<typeof callbacks>

/** A device that is out: follows from the record of its job. */
export const devicesOut = table(
  'devices_out',
  {
    jobId: id,
    serial: text,
    companyId: id,
    branchId: id,
    siteId: id,
    callbackId: orNull(id),
    model: text,
    goes: as<(typeof oldUnitFates)[number]>(text),
    stage: as<ReturnStage>(text),
    dueOn: orNull(date),
    reference: text,
    outcome: orNull(as<ReturnOutcome>(text)),
    creditCents: orNull(int),
    outAt: time,
  },
  ['jobId', 'serial'],
)
export type DeviceOutRow = RowOf<typeof devicesOut>

/** How a device joined: follows from the record of its job. */
export const pairings = table(
  'pairings',
  { unitId: id, companyId: id, branchId: id, jobId: id, modelId: id, radio: text, cause: orNull(text), seconds: orNull(int) },
  ['unitId'],
)

export const photos = table('photos', {
  id,
  companyId: id,
  branchId: id,
  jobId: id,
  mime: text,
  bytes: blob,
  /** As it is shown in lists; null: nobody has asked since there are such. */
  small: orNull(blob),
  uploadedBy: id,
  uploadedAt: time,
})
