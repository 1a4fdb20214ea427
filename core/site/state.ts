import type { WhyEnded, BreakerState, EnergisePurpose, ReferenceKind, SignKind, StopKind } from './words'
import type { TracingRound } from './tracing/round'
import type { StreamState } from '../stream'
import type { SchemeId } from '../units'
import type { Conductor, FarPosition, InstrumentSnapshot, ReferenceSeen, SiteBox, SiteBreaker } from './parts.schema'
import type { Impedance } from './reading'
import type { HousingKind } from './survey-words'
import type { HomeNetwork, Noted, RoomPlace, SignalReading } from './survey.schema'

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
  /** The lever was found closed under it: it protects nobody until its owner says that the lock hangs again, and why. */
  defeated: boolean
}

export interface ClosePermit {
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
export interface PowerRequest {
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
  /** asked → granted (the permit is given) → live (closed, until found open). */
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

/** Somebody was alarmed and has not said yet that their hands are out. It waits for them on any device, at any later time. */
export interface OpenAlarm {
  personId: string
  name: string
  initials: string
  /** Where their hands may be. Empty: told, nothing waits for it. */
  boxIds: string[]
  seq: number
  /** What happened: the event's type, and who reported it. */
  what: string
  by: string
  breakerId: string | null
  at: string
  /** A device of theirs has shown it. */
  shownAt: string | null
}

/** A sign of voltage that nobody has explained yet. What its doubt reached is not proven again until then. */
export interface Sign {
  seq: number
  at: string
  boxId: string
  /** The box itself first. */
  reached: string[]
  personId: string
  name: string
  what: SignKind | 'reading' | 'parted' | 'round'
  pair: { a: string; b: string } | null
  volts: number | null
  impedance: Impedance | null
  instrumentId: string | null
  /** Only by high impedance yet. */
  suspense: boolean
  /** Living proofs that wait for a low-impedance reading of the same pair, made in time. */
  suspends: string[]
  proofId: string | null
}

/** A lead says that somebody is off the site; a second person has to confirm it. */
export interface Absence {
  personId: string
  name: string
  declaredBy: { personId: string; name: string }
  reason: string
  at: string
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
  position: FarPosition
  impedance: Impedance
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
  voidWhy: WhyEnded | null
  instrumentId: string
  instrument: InstrumentSnapshot
  sourceName: string
  sourceVolts: number
  /** The breaker of the source it was proved on; null for a proving unit. */
  sourceBreakerId: string | null
  reference: { kind: ReferenceKind; letter: string | null; seen: ReferenceSeen; warning: string | null } | null
  /** The reference was seen good once more after the readings. */
  referenceSeenAgain: boolean
  /** Every pair, besides each conductor against the reference: the company's rule when it was started. */
  everyPair: boolean
  /** What the tester showed at its second check, while it waits for another source. */
  recheckVolts: number | null
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
  /** looking: plate off with the power on, nothing touched. */
  closure: 'closed' | 'looking' | 'opened' | 'guarded'
  guardedBy: { personId: string; name: string; initials: string } | null
  openedBy: { personId: string; name: string; initials: string } | null
  /** Server time it was last opened: what was tested before says nothing of it. */
  lastOpenedAt: string | null
  /** Who closed it last, for a moment in which that can be taken back; the proof it ended. */
  closedBy: { personId: string; at: string; seq: number; proofId: string | null } | null
  /** Who said that it is open, and the seq of their newest word. */
  openWords: Record<string, number>
  /** Breakers that carried power while this box was proven dead: they do not feed it, whatever the labels say. */
  ruledOut: Record<string, { seq: number; at: string }>
  parted: PartedNeutral[]
  /** Conductors that showed 1 V or more since it was opened: they stay on the list while it is open. */
  readLive: string[]
  /** Conductors that showed coupled voltage and were dead by low impedance: they may show it again. */
  floats: string[]
  /** Neutrals that read what the live point's neutral reads: worked beside, never parted. */
  shifted: string[]
  conductors: Conductor[]
  proofId: string | null
  /** Seq of the newest sign of voltage here. */
  liveSeq: number
  /** Off the lists: listed twice, or not there. Whoever says that it is open brings it back. */
  retired: { by: string; at: string; reason: string } | null
}

export interface BreakerRecord extends SiteBreaker {
  state: BreakerState
  since: string | null
  /**
   * When it was closed last, as early and as late as that may have been; left out: nobody recorded it. A lever that is found
   * closed was closed at some time after it was found open.
   */
  closedBetween?: { from: string | null; to: string }
  tripCause: string | null
  /** A trip whose cause is not recorded forbids closing. */
  tripUnexplained: boolean
  /** Seq of the newest event that made it energised: a fact based on less cannot make it safe. */
  energisedSeq: number
  /** Seq of the newest word about its lever. */
  stateSeq: number
}

export interface Source {
  id: string
  kind: string
  name: string
  /** Why it cannot reach any box, as a licensed person recorded it; null while nobody has. */
  ruledOut: string | null
}

/** Energy state of one site. All jobs at the site share it. */
/** Somebody stopped the work: nothing is touched or closed until it is ended. */
export interface WorkStop {
  id: string
  personId: string
  name: string
  initials: string
  at: string
  seq: number
  what: StopKind | null
  note: string
}

export interface SiteState extends StreamState {
  siteId: string
  schemeId: SchemeId
  rooms: Record<string, { id: string; name: string }>
  roomOrder: string[]
  sources: Record<string, Source>
  panels: Record<string, { id: string; name: string; place: string }>
  breakers: Record<string, BreakerRecord>
  boxes: Record<string, BoxState>
  boxOrder: string[]
  neutralTies: string[][]
  /** What was seen of the boxes in rounds with several breakers open. */
  huntRounds: TracingRound[]
  /** The boxes that are traced, on every phone; missing: those whose feed nobody knows. */
  huntScope?: string[]
  tags: Record<string, Tag>
  grants: Record<string, ClosePermit>
  asks: Record<string, PowerRequest>
  measuring: Record<string, Measuring>
  solo: Record<string, Solo>
  /** Testers that failed, by id: nobody proves anything with them until they are back in service. */
  failedInstruments: Record<string, { name: string; at: string }>
  /** Seq at which each tester was last seen good on a live source. */
  instrumentGoodSeq: Record<string, number>
  proofs: Record<string, Proof>
  /** People who have put a hand to something here and have not left. */
  onSite: Record<string, { personId: string; name: string; initials: string }>
  /** Until they answer, nothing is closed that could reach their boxes. */
  alarms: Record<string, OpenAlarm>
  /** Signs of voltage without a cause yet, by seq. */
  signs: Record<string, Sign>
  absences: Record<string, Absence>
  /** Missing: work goes on. */
  stop?: WorkStop
  /** Everybody who ever did anything here, with the time of their newest word. */
  people: Record<string, { name: string; initials: string; lastAt: string; leftAt?: string }>
  /** Breakers that left the record, by id: history still names them. */
  retired: Record<string, Retired>
  /** What was seen of each box in a survey. */
  surveys: Record<string, BoxSurvey>
  /** With when it was last looked at. */
  networks: Record<string, HomeNetwork & { at: string }>
  /** What kind of home it is; null and empty: not said. */
  home: { housing: HousingKind | null; builder: string; neutralEarthed: boolean | null }
  /** Where rooms are, by room: what the signal has to go through. */
  places: Record<string, RoomPlace>
  signals: (SignalReading & { at: string; by: string })[]
}

export interface Retired {
  what: 'breaker'
  name: string
  by: string
  at: string
  reason: string
}
type Known<T> = { [K in keyof T]?: NonNullable<T[K]> }
/** What is known of a box from looking at it; what is missing nobody has looked at. Its size stands with the box itself. */
export type BoxSurvey = Known<Omit<Noted, 'volumeIn3' | 'depthMm' | 'material' | 'internalClamps'>>

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
    instrumentGoodSeq: {},
    proofs: {},
    onSite: {},
    alarms: {},
    signs: {},
    absences: {},
    people: {},
    retired: {},
    surveys: {},
    networks: {},
    home: { housing: null, builder: '', neutralEarthed: null },
    places: {},
    signals: [],
  }
}
