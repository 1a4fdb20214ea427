import type { SiteBox } from '../parts.schema'
import type { BoxState } from '../state'

/** What has happened at a box that is new on record: nothing. */
export const emptyBox: Omit<BoxState, keyof SiteBox> = {
  closure: 'closed',
  guardedBy: null,
  openedBy: null,
  lastOpenedAt: null,
  closedBy: null,
  openWords: {},
  ruledOut: {},
  parted: [],
  readLive: [],
  floats: [],
  shifted: [],
  conductors: [],
  proofId: null,
  liveSeq: 0,
  retired: null,
}
