import { as, flag, id, orNull, table, text, time, type RowOf } from './columns'
import type { LinkDoing } from '../../../core/link'

/** Laptops that reach devices in homes. */
export const deviceLinks = table('device_links', {
  id,
  companyId: id,
  name: text,
  madeBy: id,
  madeAt: time,
  /** SHA-256 of the one-time code; null once it was used. */
  codeHash: orNull(text),
  codeUntil: time,
  /** SHA-256 of the pass; null before it was paired. */
  keyHash: orNull(text),
  pairedAt: orNull(time),
  seenAt: orNull(time),
  endedAt: orNull(time),
})
export type DeviceLinkRow = RowOf<typeof deviceLinks>

/** Which link holds the installer of a job, and what it is sealed with. */
export const deviceFabrics = table(
  'device_fabrics',
  { jobId: id, companyId: id, linkId: id, seal: text, openedAt: time, emptiedAt: orNull(time) },
  ['jobId'],
)

/** What was asked of a link. */
export const linkAsks = table('link_asks', {
  id,
  companyId: id,
  branchId: id,
  jobId: id,
  unitId: id,
  linkId: id,
  personId: id,
  doing: as<LinkDoing>(text),
  state: as<'waiting' | 'taken' | 'done' | 'failed'>(text),
  said: text,
  anyway: flag,
  /** A code of the household’s app to join by, or that of a window that was opened; worth nothing after some minutes. */
  sealed: orNull(text),
  /** A window that was opened closes. */
  until: orNull(time),
  /** What its meter read, as JSON. */
  trace: orNull(text),
  askedAt: time,
  takenAt: orNull(time),
  doneAt: orNull(time),
})
export type LinkAskRow = RowOf<typeof linkAsks>
