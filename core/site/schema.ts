import { z } from 'zod'
import { idSchema, personRoles } from '../stream'
import { awgSizes, metricSizes, schemeIds } from '../units'
import { letter } from '../units/letter'
import { impedances } from './reading'
import {
  breakerRoles,
  breakerStates,
  conductorColours,
  energisePurposes,
  type instrumentKinds,
  referenceKinds,
  signKinds,
  sourceKinds,
  stopKinds,
} from './words'

const name = z.string().trim().min(1).max(80)
const note = z.string().trim().max(500)
const volts = z.number().min(0).max(1000)

export const conductorSchema = z.object({
  letter,
  colour: z.enum(conductorColours),
  gaugeAwg: z
    .union(awgSizes.map((size) => z.literal(size)) as never as [z.ZodLiteral<number>, z.ZodLiteral<number>])
    .nullable()
    .default(null),
  areaMm2: z
    .union(metricSizes.map((size) => z.literal(size)) as never as [z.ZodLiteral<number>, z.ZodLiteral<number>])
    .nullable()
    .default(null),
  cable: z.string().trim().max(40).default(''),
  /** How it runs through the box: ends here, passes unbroken, or passes unbroken with a long free loop. */
  course: z.enum(['ends', 'through', 'loop']).default('ends'),
})
export type Conductor = z.infer<typeof conductorSchema>

export const roomSchema = z.object({ id: idSchema, name })
export const boxSchema = z.object({
  id: idSchema,
  roomId: idSchema,
  name,
  gangs: z.int().min(1).max(6),
  /** Marked or tabulated volume, in³ (120/240 V scheme). */
  volumeIn3: z.number().positive().max(500).nullable().default(null),
  /** Back-box depth, mm (230 V scheme). */
  depthMm: z.number().positive().max(200).nullable().default(null),
  material: z.enum(['plastic', 'metal', 'unknown']).default('unknown'),
  internalClamps: z.int().min(0).max(8).default(0),
  /** Breakers that feed it, as far as known. Empty or with `unknownFeed`: the feed is not known. */
  breakerIds: z.array(idSchema).max(12).default([]),
  unknownFeed: z.boolean().default(false),
  /** Other boxes whose switches act on something in this box. */
  farBoxIds: z.array(idSchema).max(6).default([]),
})
export type SiteBox = z.infer<typeof boxSchema>
export const sourceSchema = z.object({ id: idSchema, kind: z.enum(sourceKinds), name })
export const panelSchema = z.object({ id: idSchema, name, place: z.string().trim().max(80).default('') })
export const breakerSchema = z.object({
  id: idSchema,
  /** The panel it sits in; null for a disconnect outside a panel. */
  panelId: idSchema.nullable(),
  role: z.enum(breakerRoles),
  /** What is upstream: a source for a main, else the panel it sits in. */
  sourceId: idSchema.nullable().default(null),
  /** For mains and feeders: the panel they supply. */
  suppliesPanelId: idSchema.nullable().default(null),
  number: z.string().trim().min(1).max(12),
  poles: z.int().min(1).max(3).default(1),
  amps: z.number().positive().max(400).nullable().default(null),
  labelAsFound: z.string().trim().max(120).default(''),
  state: z.enum(breakerStates).default('closed'),
  offLimits: z.string().trim().max(200).nullable().default(null),
})
export type SiteBreaker = z.infer<typeof breakerSchema>

const layOut = z.object({
  type: z.literal('layOut'),
  schemeId: z.enum(schemeIds),
  sources: z.array(sourceSchema).max(6),
  panels: z.array(panelSchema).max(12),
  breakers: z.array(breakerSchema).max(200),
  rooms: z.array(roomSchema).max(80),
  boxes: z.array(boxSchema).max(200),
})

const proofSource = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('breaker'), breakerId: idSchema, name }),
  z.object({ kind: z.literal('provingUnit'), name }),
])

/** How one knows that a neutral carries nothing before its splice is parted. */
const partBasis = z.discriminatedUnion('kind', [
  /** `loadsOn`: with the loads of the other circuits switched on; a clamp proves nothing while they are off. */
  z.object({ kind: z.literal('clamp'), amps: z.number().min(0).max(200), loadsOn: z.boolean().default(false) }),
  z.object({ kind: z.literal('partnersOpen'), breakerIds: z.array(idSchema).min(1).max(6) }),
])

const pairEnd = z.string().regex(/^(REF2?|[A-Z]{1,2})$/)
const ohms = z.number().min(0).max(10_000_000)

/** How the switches of other boxes stood during a reading. */
export const farPositionSchema = z.array(z.object({ boxId: idSchema, side: z.enum(['up', 'down']) })).max(6)
export type FarPosition = z.infer<typeof farPositionSchema>

/** How a reference was seen good: by voltage at one live point, by continuity to the main earth bar, or by a second earth. */
export const referenceSeenSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('livePoint'),
    /** The circuit the live point hangs on: recorded closed, ahead of any open breaker. */
    breakerId: idSchema,
    name,
    lineToNeutral: volts,
    referenceToLine: volts,
    referenceToNeutral: volts,
  }),
  z.object({ kind: z.literal('continuity'), ohms, leadOhms: ohms }),
  z.object({ kind: z.literal('twoEarths'), second: name, ohms, leadOhms: ohms }),
])
export type ReferenceSeen = z.infer<typeof referenceSeenSchema>

/** The same pair once more, to tell what an earlier reading was. */
const again = z.object({ volts, impedance: z.enum(['low', 'steps']), instrumentId: idSchema })

/** Why there was voltage where none should be. Until one is recorded, nothing the doubt reached is proven again. */
export const signCauseSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('leverMoved'), breakerId: idSchema }),
  z.object({ kind: z.literal('secondFeed'), breakerId: idSchema }),
  z.object({ kind: z.literal('ghost'), again }),
  z.object({ kind: z.literal('mistyped'), again }),
  z.object({ kind: z.literal('timer'), note: note.min(3) }),
  z.object({ kind: z.literal('neutralShift'), note: note.min(3) }),
  z.object({ kind: z.literal('testerAtFault'), note: note.min(3) }),
  z.object({ kind: z.literal('unknown') }),
])
export type SignCause = z.infer<typeof signCauseSchema>

/** Pen strokes of a signature: lists of x, y in the unit square. */
export const strokesSchema = z
  .array(
    z
      .array(z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]))
      .min(1)
      .max(2000),
  )
  .min(1)
  .max(200)

/** Everything a person can say about the energy of a site. Facts are `observe…`/`found`; permissions are `request…`. */
export const siteCommandSchema = z.discriminatedUnion('type', [
  layOut,
  z.object({
    type: z.literal('observeBreaker'),
    breakerId: idSchema,
    state: z.enum(['closed', 'open', 'tripped']),
    /** did: this person just moved the lever · found: it was so, nobody knows since when. */
    how: z.enum(['did', 'found']).default('did'),
    note: note.default(''),
  }),
  z.object({
    type: z.literal('observeLive'),
    boxId: idSchema,
    what: z.enum(signKinds),
    volts: volts.nullable().default(null),
    /** Of a meter: with which range. Null: not said, taken as a low-impedance reading. */
    impedance: z.enum(impedances).nullable().default(null),
    note: note.default(''),
  }),
  z.object({ type: z.literal('recordTripCause'), breakerId: idSchema, cause: note.min(3) }),
  z.object({ type: z.literal('markOffLimits'), breakerId: idSchema, reason: z.string().trim().min(3).max(200).nullable() }),
  z.object({
    type: z.literal('hangTag'),
    tagId: idSchema,
    breakerId: idSchema,
    lock: z.string().trim().max(60).default(''),
    measure: note.default(''),
    /** The company's lock for the night: it keeps the breaker open, and makes nobody's hands safe. */
    company: z.boolean().default(false),
    /** What the notice at the breaker says. */
    notice: note.default(''),
  }),
  z.object({ type: z.literal('removeTag'), tagId: idSchema }),
  /** `cause`: for a tag under which the lever was found closed, what had happened. */
  z.object({ type: z.literal('rehangTag'), tagId: idSchema, cause: note.default('') }),
  /**
   * A lead says that somebody who left things behind is off the site; what they left ends when a second person confirms.
   * `explained`: why the record still has them here.
   */
  z.object({
    type: z.literal('declareAbsent'),
    personId: idSchema,
    reason: note.min(10),
    leftBuildingVerified: z.literal(true),
    explained: note.default(''),
  }),
  z.object({ type: z.literal('withdrawAbsent'), personId: idSchema }),
  /** `household`: nobody else in the company can confirm; a named person at the home signs on the glass. */
  z.object({
    type: z.literal('confirmAbsent'),
    personId: idSchema,
    household: z.object({ name, strokes: strokesSchema }).nullable().default(null),
  }),
  z.object({ type: z.literal('recordCause'), signSeq: z.int().min(1), cause: signCauseSchema }),
  z.object({ type: z.literal('showAlarm') }),
  z.object({ type: z.literal('recordSource'), sourceId: idSchema, kind: z.enum(sourceKinds), name }),
  /** Where a source is switched off: a breaker of its own that supplies a panel. */
  z.object({
    type: z.literal('recordSourcePoint'),
    sourceId: idSchema,
    breakerId: idSchema,
    number: z.string().trim().min(1).max(12),
    panelId: idSchema,
    basis: note.min(3),
  }),
  z.object({ type: z.literal('ruleOutSource'), sourceId: idSchema, reason: note.min(10) }),
  /** What the office changed about a person: role and licence count at every decision. */
  z.object({
    type: z.literal('notePerson'),
    personId: idSchema,
    licensed: z.boolean(),
    role: z.enum(personRoles),
    active: z.boolean(),
  }),
  /** An instrument failed elsewhere: what was read with it here since its last good check ends. */
  z.object({ type: z.literal('noteInstrumentFailed'), instrumentId: idSchema, name, why: note.default('') }),
  z.object({
    type: z.literal('setFeeds'),
    boxId: idSchema,
    breakerIds: z.array(idSchema).max(12),
    unknownFeed: z.boolean(),
    basis: note.min(3),
  }),
  /** What was seen in the rooms with the breakers open that the record has open now. */
  z.object({
    type: z.literal('observeRound'),
    seen: z
      .record(idSchema, z.enum(['on', 'off', 'part']))
      .refine((seen) => Object.keys(seen).length > 0, 'Say what was seen of one box at least.'),
  }),
  /** The newest round was seen or typed wrong. */
  z.object({ type: z.literal('takeBackRound'), round: z.int().min(1) }),
  /** Which boxes are traced: the same on every phone. None: those whose feed nobody knows. */
  z.object({ type: z.literal('scopeHunt'), boxIds: z.array(idSchema).max(200) }),
  z.object({ type: z.literal('forgetRounds'), reason: note.min(5) }),
  z.object({ type: z.literal('tieNeutrals'), breakerIds: z.array(idSchema).min(2).max(4), basis: note.min(3) }),
  z.object({ type: z.literal('openBox'), boxId: idSchema }),
  /** Plate off with the power on, nothing touched. */
  z.object({ type: z.literal('lookIn'), boxId: idSchema, warnedIds: z.array(idSchema).max(8).default([]) }),
  z.object({ type: z.literal('takeOverGuard'), boxId: idSchema }),
  /** A reading was stored under the wrong letter. */
  z.object({ type: z.literal('moveReading'), boxId: idSchema, from: letter, to: letter }),
  z.object({ type: z.literal('closeBox'), boxId: idSchema }),
  /** The tap was a mistake: the plate is not on, within a minute, by the same person. */
  z.object({ type: z.literal('undoClose'), boxId: idSchema }),
  z.object({ type: z.literal('guardBox'), boxId: idSchema, how: note.min(5) }),
  z.object({ type: z.literal('recordConductors'), boxId: idSchema, conductors: z.array(conductorSchema).min(1).max(30) }),
  z.object({ type: z.literal('startProof'), proofId: idSchema, boxId: idSchema, instrumentId: idSchema, source: proofSource, volts }),
  z.object({
    type: z.literal('seeReference'),
    proofId: idSchema,
    reference: z.enum(referenceKinds),
    /** The conductor that is the reference, when it is the ground of the box. */
    letter: letter.nullable().default(null),
    seen: referenceSeenSchema,
    /** The second look at the same reference, after the readings. */
    again: z.boolean().default(false),
  }),
  z.object({
    type: z.literal('takeReading'),
    proofId: idSchema,
    a: pairEnd,
    b: pairEnd,
    position: farPositionSchema.default([]),
    impedance: z.enum(impedances),
    volts,
    /** The neutral of the live point, or the neutral bar of the panel, against reference and conductor, V: tells a shift from a feed. */
    neutral: z.object({ toReference: volts, toConductor: volts }).nullable().default(null),
  }),
  z.object({
    type: z.literal('sweepReadings'),
    proofId: idSchema,
    pairs: z
      .array(z.object({ a: pairEnd, b: pairEnd }))
      .min(1)
      .max(30, 'At most 30 readings are stored in one tap.'),
    position: farPositionSchema.default([]),
    impedance: z.enum(impedances),
    /** The highest of all of them. */
    highestVolts: volts,
  }),
  z.object({ type: z.literal('finishProof'), proofId: idSchema, volts }),
  /** The second check was off: once more on another known source. */
  z.object({ type: z.literal('recheckTester'), proofId: idSchema, source: proofSource, volts }),
  z.object({ type: z.literal('abandonProof'), proofId: idSchema, reason: note.min(3) }),
  z.object({ type: z.literal('witnessProof'), proofId: idSchema }),
  z.object({
    type: z.literal('requestClose'),
    grantId: idSchema,
    breakerId: idSchema,
    /** The ask everyone said clear to: then the box may be open and the tags suspended. */
    clearanceId: idSchema.nullable().default(null),
  }),
  z.object({ type: z.literal('answerGrant'), grantId: idSchema, answer: z.enum(['closed', 'givenUp']) }),
  z.object({
    type: z.literal('askOpen'),
    askId: idSchema,
    breakerId: idSchema,
    boxId: idSchema.nullable().default(null),
    note: note.default(''),
  }),
  z.object({
    type: z.literal('askEnergise'),
    askId: idSchema,
    breakerId: idSchema,
    boxId: idSchema.nullable().default(null),
    purpose: z.enum(energisePurposes),
    note: note.default(''),
  }),
  z.object({ type: z.literal('withdrawAsk'), askId: idSchema }),
  z.object({ type: z.literal('confirmClear'), askId: idSchema }),
  z.object({ type: z.literal('takeBackClear'), askId: idSchema }),
  z.object({ type: z.literal('startMeasuring'), measureId: idSchema, boxId: idSchema, warnedIds: z.array(idSchema).max(8).default([]) }),
  z.object({ type: z.literal('endMeasuring'), measureId: idSchema }),
  z.object({ type: z.literal('partNeutral'), partId: idSchema, boxId: idSchema, what: note.min(3), basis: partBasis }),
  /** `testerVolts`: the tester on its known source afterwards. */
  z.object({
    type: z.literal('testParted'),
    partId: idSchema,
    instrumentId: idSchema,
    voltsHere: volts,
    voltsAway: volts,
    testerVolts: volts,
  }),
  z.object({ type: z.literal('startSolo'), contact: name, everyMinutes: z.int().min(10).max(120).default(30) }),
  z.object({ type: z.literal('checkIn') }),
  z.object({ type: z.literal('endSolo') }),
  z.object({ type: z.literal('confirmStopped') }),
  /** Everybody here stops. */
  z.object({ type: z.literal('stopWork'), stopId: idSchema }),
  /** What had happened: asked once everybody has stopped. */
  z.object({ type: z.literal('tellStop'), stopId: idSchema, what: z.enum(stopKinds), note: note.default('') }),
  z.object({ type: z.literal('endStop'), stopId: idSchema, note: note.min(3) }),
  z.object({ type: z.literal('leaveSite') }),
])
export type SiteCommand = z.infer<typeof siteCommandSchema>
export type SiteCommandType = SiteCommand['type']

type Payload<T extends SiteCommandType> = Omit<Extract<SiteCommand, { type: T }>, 'type'>
/** Living proofs an event ends, and the people it must alarm. */
export interface Consequence {
  voids: string[]
  alarms: string[]
}
/** What a sign of voltage does: besides ending proofs it may hold others in suspense, and it waits for its cause. */
export interface SignConsequence extends Consequence {
  /** Boxes the doubt reaches, the box itself first. */
  reached: string[]
  /** Living proofs that wait for a low-impedance reading of the same pair. */
  suspends: string[]
  /** Only by high impedance yet: the same pair by low impedance, in time, clears it. */
  suspense: boolean
  /** The record cannot explain it: a cause has to be recorded. */
  unexplained: boolean
}
export type InstrumentKind = (typeof instrumentKinds)[number]
export interface InstrumentSnapshot {
  name: string
  serial: string
  kind: InstrumentKind
  calibrationDue: string
  /** Of a two-pole detector: the lowest voltage it shows, V. */
  lowestStepVolts?: number | null
  /** Failed, and no lead has recorded yet what was done and that it proved good on two sources. */
  outOfService?: boolean
  /** When it last came back into service. */
  provedGoodAt?: string | null
}
interface Person {
  personId: string
  name: string
  initials: string
}

export type SiteEvent =
  | { type: 'siteLaidOut'; payload: Payload<'layOut'> & Consequence }
  | { type: 'breakerObserved'; payload: Payload<'observeBreaker'> & Consequence & { late: boolean; again: boolean; knewSeq: number } }
  | { type: 'liveObserved'; payload: Payload<'observeLive'> & SignConsequence & { instrumentId: string | null; a: string; b: string } }
  | {
      type: 'causeRecorded'
      payload: Payload<'recordCause'> & Consequence & { boxId: string; reached: string[]; instrumentId: string | null }
    }
  | { type: 'alarmShown'; payload: Record<string, never> }
  | { type: 'tripCauseRecorded'; payload: Payload<'recordTripCause'> }
  | { type: 'offLimitsMarked'; payload: Payload<'markOffLimits'> }
  | { type: 'sourceRecorded'; payload: Payload<'recordSource'> & Consequence }
  | { type: 'sourcePointRecorded'; payload: Payload<'recordSourcePoint'> & Consequence }
  | { type: 'sourceRuledOut'; payload: Payload<'ruleOutSource'> }
  | { type: 'tagHung'; payload: Payload<'hangTag'> }
  | { type: 'tagRemoved'; payload: Payload<'removeTag'> & { breakerId: string } & Consequence }
  | { type: 'tagRehung'; payload: Payload<'rehangTag'> & { breakerId: string } & Consequence }
  /** Written by earlier programs only: one tag of an absent person. */
  | {
      type: 'tagOverridden'
      payload: {
        tagId: string
        reason: string
        leftBuildingVerified: true
        breakerId: string
        ownerId: string
        ownerName: string
      } & Consequence
    }
  | { type: 'absenceDeclared'; payload: Payload<'declareAbsent'> & { name: string } }
  | { type: 'absenceWithdrawn'; payload: Payload<'withdrawAbsent'> }
  | {
      type: 'absentEnded'
      payload: Payload<'confirmAbsent'> &
        Consequence & { name: string; tagIds: string[]; breakerIds: string[]; declaredBy: string; reason: string }
    }
  | { type: 'feedsSet'; payload: Payload<'setFeeds'> & Consequence }
  | { type: 'roundSeen'; payload: Payload<'observeRound'> & { open: string[] } & SignConsequence }
  | { type: 'roundTakenBack'; payload: Payload<'takeBackRound'> }
  | { type: 'huntScoped'; payload: Payload<'scopeHunt'> }
  | { type: 'roundsForgotten'; payload: Payload<'forgetRounds'> }
  | { type: 'neutralsTied'; payload: Payload<'tieNeutrals'> & Consequence }
  | { type: 'boxOpened'; payload: Payload<'openBox'> & { alarms?: string[] } }
  | { type: 'boxLookedInto'; payload: Payload<'lookIn'> & { alarms: string[] } }
  | { type: 'boxClosed'; payload: Payload<'closeBox'> & Consequence }
  | { type: 'boxReopened'; payload: Payload<'undoClose'> }
  | { type: 'boxGuarded'; payload: Payload<'guardBox'> & Consequence }
  | { type: 'guardTakenOver'; payload: Payload<'takeOverGuard'> }
  | { type: 'conductorsRecorded'; payload: Payload<'recordConductors'> & Consequence }
  | { type: 'readingMoved'; payload: Payload<'moveReading'> }
  | {
      type: 'proofStarted'
      payload: Payload<'startProof'> &
        Consequence & { instrument: InstrumentSnapshot; warning: string | null; everyPair: boolean; edition: 1 | 2 }
    }
  | { type: 'referenceSeen'; payload: Payload<'seeReference'> & { warning: string | null; anew: boolean } }
  | {
      type: 'readingTaken'
      payload: Payload<'takeReading'> & SignConsequence & { verdict: string; stopped: boolean; boxId: string; restores: number[] }
    }
  | { type: 'readingsSwept'; payload: Payload<'sweepReadings'> & Consequence & { restores: number[] } }
  | {
      type: 'proofFinished'
      payload: Payload<'finishProof'> &
        Consequence & {
          /** good · recheck: the tester is off, once more on another source · bad */
          outcome: 'good' | 'recheck'
          reason: string | null
          boxId: string
          /** When it was really made, if it waited on a phone without network. */
          finishedAt?: string
          /** The newest seq its maker knew of: a breaker closed after that was not on while this was read. */
          knewSeq?: number
          edition: 1 | 2
        }
    }
  | {
      type: 'testerRechecked'
      payload: Payload<'recheckTester'> & Consequence & { boxId: string; testerGood: boolean; instrumentId: string }
    }
  | { type: 'instrumentFailed'; payload: Payload<'noteInstrumentFailed'> & Consequence }
  | { type: 'proofAbandoned'; payload: Payload<'abandonProof'> & Consequence & { boxId: string } }
  | { type: 'proofWitnessed'; payload: Payload<'witnessProof'> & { boxId: string } }
  | { type: 'closeGranted'; payload: Payload<'requestClose'> & { expiresAt: string | null } & Consequence }
  | { type: 'grantAnswered'; payload: Payload<'answerGrant'> & { breakerId: string } }
  /** Written by earlier programs only: the leave of an absent person. */
  | {
      type: 'grantOverridden'
      payload: { grantId: string; reason: string; leftBuildingVerified: true; breakerId: string; ownerName: string } & Consequence
    }
  | { type: 'openAsked'; payload: Payload<'askOpen'> }
  | { type: 'energiseAsked'; payload: Payload<'askEnergise'> & { asks: string[] } }
  | { type: 'askWithdrawn'; payload: Payload<'withdrawAsk'> }
  | { type: 'clearConfirmed'; payload: Payload<'confirmClear'> & { breakerId: string; tagIds: string[] } }
  | { type: 'clearTakenBack'; payload: Payload<'takeBackClear'> }
  | { type: 'measuringStarted'; payload: Payload<'startMeasuring'> & { asks: string[] } }
  | { type: 'measuringEnded'; payload: Payload<'endMeasuring'> }
  | { type: 'neutralParted'; payload: Payload<'partNeutral'> }
  | { type: 'partedTested'; payload: Payload<'testParted'> & { boxId: string; stopped: boolean } & SignConsequence }
  | { type: 'personNoted'; payload: Payload<'notePerson'> & Consequence }
  | { type: 'soloStarted'; payload: Payload<'startSolo'> & { dueAt: string } }
  | { type: 'checkedIn'; payload: { dueAt: string } }
  | { type: 'soloEnded'; payload: Record<string, never> }
  | { type: 'stopConfirmed'; payload: Record<string, never> }
  | { type: 'workStopped'; payload: Payload<'stopWork'> & { alarms: string[] } }
  | { type: 'stopTold'; payload: Payload<'tellStop'> & Consequence }
  | { type: 'workResumed'; payload: Payload<'endStop'> }
  /** `people`: everyone who left, when a whole crew ends its visit; `handOver`: who stays with an open box. */
  | { type: 'siteLeft'; payload: Consequence & { people?: string[]; handOver?: Record<string, Person> } }
export type SiteEventType = SiteEvent['type']
