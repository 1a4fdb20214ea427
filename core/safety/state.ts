import type { StreamState } from '../stream'
import type { SchemeId } from '../units'
import type { BreakerState, Conductor, InstrumentSnapshot, SiteBox, SiteBreaker } from './schema'

export interface Tag {
  id: string
  breakerId: string
  personId: string
  initials: string
  name: string
  lock: string
  measure: string
  hungAt: string
  hungSeq: number
}

export interface Grant {
  id: string
  breakerId: string
  personId: string
  name: string
  grantedAt: string
}

export interface Reading {
  a: string
  b: string
  position: string
  impedance: 'high' | 'low'
  volts: number
  verdict: string
  at: string
}

export interface Proof {
  id: string
  boxId: string
  personId: string
  name: string
  initials: string
  proverLicensed: boolean
  status: 'open' | 'living' | 'void'
  voidReason: string | null
  instrumentId: string
  instrument: InstrumentSnapshot
  sourceName: string
  sourceVolts: number
  reference: { kind: string; against: string; volts: number; letter: string | null } | null
  readings: Reading[]
  witnesses: { personId: string; initials: string; licensed: boolean }[]
  startedAt: string
  /** Server time of its newest step: an unfinished proof that nobody goes on with may be taken over. */
  touchedAt: string
  /** Server time the second check of the tester was stored; the time limit counts from here. */
  finishedAt: string | null
  /** The energy seq the proof rests on. */
  basedOnSeq: number
}

export interface BoxState extends SiteBox {
  closure: 'closed' | 'opened' | 'guarded'
  guardedBy: string | null
  conductors: Conductor[]
  proofId: string | null
  /** Seq of the newest sign of voltage here. */
  liveSeq: number
}

export interface BreakerRecord extends SiteBreaker {
  state: BreakerState
  since: string | null
  tripCause: string | null
  /** A trip whose cause is not recorded forbids closing. */
  tripUnexplained: boolean
  /** Seq of the newest event that made it energised: a fact based on less cannot make it safe. */
  energisedSeq: number
}

/** Energy state of one site. All jobs at the site share it. */
export interface SiteState extends StreamState {
  siteId: string
  schemeId: SchemeId
  rooms: Record<string, { id: string; name: string }>
  roomOrder: string[]
  sources: Record<string, { id: string; kind: string; name: string }>
  panels: Record<string, { id: string; name: string; place: string }>
  breakers: Record<string, BreakerRecord>
  boxes: Record<string, BoxState>
  boxOrder: string[]
  neutralTies: string[][]
  tags: Record<string, Tag>
  grants: Record<string, Grant>
  proofs: Record<string, Proof>
}

export function emptySite(siteId: string): SiteState {
  return {
    siteId,
    schemeId: 'na120',
    seq: 0,
    unknownEvent: null,
    rooms: {},
    roomOrder: [],
    sources: {},
    panels: {},
    breakers: {},
    boxes: {},
    boxOrder: [],
    neutralTies: [],
    tags: {},
    grants: {},
    proofs: {},
  }
}
