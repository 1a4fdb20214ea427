import type { z } from 'zod'
import type { StreamState } from '../stream'
import type { DeviceModel } from '../fit'
import type { ConductorRole, RoleMethod } from '../connect'
import type { Household, Wish } from '../plan/household.schema'
import type { AutomationState } from './automation/state'
import type { LinkState } from './link/state'
import type { PairingState } from './pairing/state'
import type { EvidenceKind } from './handover/words'
import type { Call } from './callback/call.schema'
import type { PartMoved } from './part/move-part.schema'
import type { UnitPrepared } from './shop/prepare-unit.schema'
import type { DoorDecided } from './visit/decide-at-door.schema'
import type { PlanSold } from './sale/sell-plan.schema'
import type { CodeChecked } from './unit/check-code.schema'
import type { CodePlace } from './unit/code-places'
import type { ReturnFollowed } from './unit/follow-return.schema'
import type { OtherLocationStep, Observation, VerdictCode, WireReading, WiringPlan } from '../wiring'
import type { foundNotesSchema, LightPoint, signalSchema, StoredCode } from './parts.schema'
import type { NotePermit } from './verification/note-permit.schema'
import type { CircuitVerified } from './verification/verify-circuit.schema'
import type { callbackRemedies, callbackSigns, causeKinds, oldUnitFates, payers, photoKinds, visitKinds } from './words'

export interface Visit {
  id: string
  kind: (typeof visitKinds)[number]
  startsAt: string
  endsAt: string
  windowFrom: string
  windowTo: string
  personIds: string[]
  callbackId: string | null
  status: 'planned' | 'onSite' | 'done' | 'cancelled'
  /** They said that they are on their way, and when they expected to be there. */
  setOffAt?: string
  expectedAt?: string
  /** What the crew found at the door, and decided. */
  door?: Omit<DoorDecided, 'visitId'> & { by: string; at: string }
  arrivedAt: string | null
  finishedAt: string | null
}

export interface Photo {
  id: string
  boxId: string | null
  kind: (typeof photoKinds)[number]
  caption: string
  at: string
  by: string
  /** The picture was erased. */
  erased?: boolean
}

export type FoundNotes = z.infer<typeof foundNotesSchema>
export interface BoxWiring {
  notes: FoundNotes | null
  readings: WireReading[]
  plan: WiringPlan | null
  /**
   * Who laid it last, and when in the record; what stands against it: then nothing is connected by it; and what it wants done
   * at other locations and at fixtures, as the server worked it out; `together`: what stands against the plans of its group as one.
   */
  planned?: {
    seq: number
    personId: string
    initials: string
    against?: VerdictCode[]
    elsewhere?: OtherLocationStep[]
    together?: VerdictCode[]
  }
  /** What was seen with the new wiring, position by position. */
  observed: Observation[]
}
export const emptyWiring = (): BoxWiring => ({ notes: null, readings: [], plan: null, observed: [] })

export interface BoxWork {
  /** `inDoubt`: done under a proof that had ended, as it turned out later; somebody has to look. */
  roles: Record<string, { role: ConductorRole; method: RoleMethod; by: string; inDoubt?: true }>
  /** Chosen device per gang. */
  devices: Record<number, { model: DeviceModel; pointIds: string[] }>
  /** Gangs in which the old switch stays. */
  oldStays?: number[]
  /** Done connection steps, keyed `gang:step`. */
  steps: Record<string, { by: string; at: string; text: string; modelId: string | null; inDoubt?: true }>
  /** What was found out about its conductors, and how they are to be wired. */
  wiring?: BoxWiring
}

export interface Unit {
  id: string
  boxId: string
  gang: number
  model: DeviceModel
  serial: string
  code: StoredCode
  installedAt: string
  removedAt: string | null
  removedTo: (typeof oldUnitFates)[number] | null
  name: string
  /** What each point it carries is called, by point, where it has several channels. */
  channelNames: Record<string, string>
  /** Who gave the name, and the seq of it. */
  namedBy: { personId: string; initials: string } | null
  nameSeq: number
  /** Names others gave at the same time without knowing of each other: all stay until somebody picks one. */
  otherNames: { name: string; initials: string }[]
  pairing: {
    result: 'joined' | 'failed'
    network: string
    signal: z.infer<typeof signalSchema> | null
    attempts: number
    note: string
  } | null
  /** The battery somebody put in; left out: the one it came with, or none. */
  battery?: { battery: string; on: string; at: string; by: string }
}

export interface TestResult {
  result: 'pass' | 'fail'
  note: string
  at: string
  by: string
  /** When it was made, by the server's time: what waited on a phone is as old as it is. */
  madeAt: string
  /** What a device said when the link tried it; left out: somebody looked. */
  measured?: string
  /** Not made in the home: what the shop has seen of this very device. */
  inShop?: string
}

export type CodeCheck = Omit<CodeChecked, 'unitId' | 'from' | 'agrees'> & { agrees: boolean; by: string; at: string }

export interface Defect {
  id: string
  pointId: string | null
  text: string
  status: 'open' | 'settled'
}

export interface Callback {
  id: string
  unitId: string
  what: string
  since: string
  signs: (typeof callbackSigns)[number][]
  /** What was said on the telephone, where it was asked. */
  call: Call | null
  /** `told`: mended on the telephone, and to be called back. */
  status: 'open' | 'told' | 'diagnosed' | 'closed'
  causeKind: (typeof causeKinds)[number] | null
  /** Of the causes that are listed, or met before. */
  causeId: string | null
  cause: string
  /** What was looked at or measured that shows it. */
  confirmedBy: string
  payer: (typeof payers)[number] | null
  told: { how: string; callBackOn: string; at: string } | null
  remedy: (typeof callbackRemedies)[number] | null
  resolution: string
  openedAt: string
  closedAt: string | null
  replacedBy: string | null
}

/** What becomes of a device that is out. */
export type DeviceReturn = Omit<ReturnFollowed, 'serial' | 'unitId'> & { at: string; by: string }

export interface Tick {
  by: string
  at: string
  rests?: EvidenceKind
  photoId?: string | null
  note?: string
}

export interface Signature {
  id: string
  signer: string
  strokes: [number, number][][]
  acceptedDefectIds: string[]
  at: string
  seq: number
}

/** What was agreed and signed: a quote, or a change of it. */
export type Sale = PlanSold & { at: string }

/** A device as the shop has seen it, for the place it goes to. */
export type PreparedUnit = UnitPrepared & { at: string; by: string; madeAt: string }

export type PartMove = PartMoved & { at: string; by: string }

/** The record of one job. */
export interface JobState extends StreamState {
  jobId: string
  siteId: string
  title: string
  note: string
  boxIds: string[]
  points: Record<string, LightPoint>
  pointOrder: string[]
  visits: Record<string, Visit>
  photos: Photo[]
  /** Where each conductor is on a photograph, by photo. */
  letters: Record<string, { letter: string; x: number; y: number }[]>
  boxes: Record<string, BoxWork>
  units: Record<string, Unit>
  tests: Record<string, Record<string, TestResult>>
  /** What was seen with the wires out, while a circuit was on for a moment; no test. */
  wiresOut: Record<string, Record<string, TestResult>>
  /** What device, tab and card were found to say, by unit: of each place the newest. */
  codeChecks: Record<string, Partial<Record<CodePlace, CodeCheck>>>
  defects: Record<string, Defect>
  /** What was shown or tried at the handover; on what it rests, where that is more than that somebody saw it. */
  ticks: Record<string, Tick>
  /** Who of the household is in, where somebody noted it. */
  members?: Record<string, { name: string; is: 'invited' | 'accepted'; at: string; by: string }>
  /** Devices that were registered with their maker, by unit. */
  warranties?: Record<string, { number: string; until: string | null; at: string; by: string }>
  /** Devices that came out or failed in the shop, by serial, where somebody has said what became of them. */
  returns?: Record<string, DeviceReturn>
  /** Readings of circuits, by {breaker}: of each the newest. */
  verified?: Record<string, Omit<CircuitVerified, 'breakerId'> & { at: string; by: string }>
  permit?: NotePermit & { at: string; by: string }
  signature: Signature | null
  handedOverAt: string | null
  callbacks: Record<string, Callback>
  /** What the household wants, by point, and who they are; null: nobody asked. */
  wishes: Record<string, Wish>
  household: Household | null
  /** Oldest first. */
  sales: Sale[]
  /** Parts that were picked, used and brought back, oldest first. */
  partMoves: PartMove[]
  /** What was prepared in the shop, by serial, the newest last. */
  prepared: Record<string, PreparedUnit>
  /** Whom its visits take, where somebody said so. */
  needs?: { people: number; skills: string[] }
  /** What the home does by itself, where somebody set something. */
  automation?: AutomationState
  /** How its devices are joined, where somebody began. */
  pairing?: PairingState
  /** Devices that the link reaches, where one was joined by it. */
  link?: LinkState
  /** Seq of the newest event that changes what a customer would sign for. */
  materialSeq: number
}

export function emptyJob(jobId: string): JobState {
  return {
    jobId,
    siteId: '',
    seq: 0,
    unknownEvent: null,
    understoodSeq: 0,
    title: '',
    note: '',
    boxIds: [],
    points: {},
    pointOrder: [],
    visits: {},
    photos: [],
    letters: {},
    boxes: {},
    units: {},
    tests: {},
    wiresOut: {},
    codeChecks: {},
    defects: {},
    ticks: {},
    signature: null,
    handedOverAt: null,
    callbacks: {},
    wishes: {},
    household: null,
    sales: [],
    partMoves: [],
    prepared: {},
    materialSeq: 0,
  }
}
