import type { HuntRound } from './hunt/belief'
import type { StreamState } from '../stream'
import type { SchemeId } from '../units'
import type { Conductor, InstrumentSnapshot, SiteBox, SiteBreaker } from './schema'
import type { BreakerState, EnergisePurpose } from './words'

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
  /** The company's lock for the night, not a person's. */
  company: boolean
  notice: string
  /** The ask its owner said clear to: it still hangs in the record and protects nobody until it is hung again. */
  suspendedFor: string | null
}

export interface Grant {
  id: string
  breakerId: string
  personId: string
  name: string
  grantedAt: string
  /** After this nobody closes on it any more; it stays live until answered. Null in old records: at once. */
  expiresAt: string | null
  clearanceId: string | null
}

/** What somebody asks of the others: open this breaker, or stand clear while it is closed for a moment. */
export interface Ask {
  id: string
  kind: 'open' | 'energise'
  breakerId: string
  boxId: string | null
  personId: string
  name: string
  initials: string
  purpose: EnergisePurpose | null
  note: string
  askedAt: string
  askedSeq: number
  /** Who has said clear, with hands out and ends safe. */
  clear: { personId: string; initials: string }[]
  /** asked → granted (leave to close is out) → live (closed, until found open). */
  status: 'asked' | 'granted' | 'live'
}

/** Live probing in one box by one qualified person, mates warned. */
export interface Measuring {
  id: string
  boxId: string
  personId: string
  name: string
  initials: string
  startedAt: string
  warnedIds: string[]
}

/** Somebody works alone and reports to a named contact. */
export interface Solo {
  personId: string
  name: string
  contact: string
  everyMinutes: number
  dueAt: string
}

/** Somebody relied on a proof that ended, and has not said yet that their hands are out. */
export interface Unanswered {
  personId: string
  name: string
  initials: string
  boxId: string
  seq: number
}

/** A neutral splice that was parted: its two ends count as live until both were tested. */
export interface PartedNeutral {
  id: string
  what: string
  by: string
  tested: boolean
}

export interface Reading {
  a: string
  b: string
  position: string
  impedance: 'high' | 'low'
  volts: number
  verdict: string
  at: string
  /** Read in a sweep: this is the highest of all its pairs. */
  sweep?: true
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
  witnesses: { personId: string; name: string; initials: string; licensed: boolean }[]
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
  openedBy: { personId: string; name: string; initials: string } | null
  /** Who said that it is open, and the seq of their newest word. */
  openWords: Record<string, number>
  /** Breakers that carried power while this box was proven dead: they do not feed it, whatever the labels say. */
  ruledOut: Record<string, { seq: number; at: string }>
  parted: PartedNeutral[]
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
  /** Seq of the newest word about its lever. */
  stateSeq: number
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
  /** What was seen of the boxes in rounds with several breakers open. */
  huntRounds: HuntRound[]
  tags: Record<string, Tag>
  grants: Record<string, Grant>
  asks: Record<string, Ask>
  measuring: Record<string, Measuring>
  solo: Record<string, Solo>
  /** Testers that failed their second check here, by id: nobody proves anything with them any more. */
  failedInstruments: Record<string, { name: string; at: string }>
  proofs: Record<string, Proof>
  /** People who have put a hand to something here and have not left. */
  onSite: Record<string, { personId: string; name: string; initials: string }>
  /** By proof and person. Until they answer, nothing is closed that could reach their box. */
  unanswered: Record<string, Unanswered>
}

export function emptySite(siteId: string): SiteState {
  return {
    siteId,
    schemeId: 'na120',
    seq: 0,
    unknownEvent: null,
    understoodSeq: 0,
    rooms: {},
    roomOrder: [],
    sources: {},
    panels: {},
    breakers: {},
    boxes: {},
    boxOrder: [],
    neutralTies: [],
    huntRounds: [],
    tags: {},
    grants: {},
    asks: {},
    measuring: {},
    solo: {},
    failedInstruments: {},
    proofs: {},
    unanswered: {},
    onSite: {},
  }
}
