import { z } from 'zod'
import { idSchema } from '../stream'
import { awgSizes, metricSizes, schemeIds } from '../units'
import { impedances } from './reading'
import { breakerRoles, breakerStates, conductorColours, energisePurposes, sourceKinds } from './words'

const name = z.string().trim().min(1).max(80)
const note = z.string().trim().max(500)
const volts = z.number().min(0).max(1000)

export const conductorSchema = z.object({
  letter: z.string().regex(/^[A-Z]{1,2}$/, 'A conductor is tagged with one or two capital letters.'),
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
  z.object({ kind: z.literal('clamp'), amps: z.number().min(0).max(200) }),
  z.object({ kind: z.literal('partnersOpen'), breakerIds: z.array(idSchema).min(1).max(6) }),
])

const pairEnd = z.string().regex(/^(REF|[A-Z]{1,2})$/)

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
    what: z.enum(['lightOn', 'tester', 'meter']),
    volts: volts.nullable().default(null),
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
  z.object({ type: z.literal('rehangTag'), tagId: idSchema }),
  z.object({ type: z.literal('overrideTag'), tagId: idSchema, reason: note.min(10), leftBuildingVerified: z.literal(true) }),
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
      .record(idSchema, z.enum(['on', 'off']))
      .refine((seen) => Object.keys(seen).length > 0, 'Say what was seen of one box at least.'),
  }),
  z.object({ type: z.literal('forgetRounds'), reason: note.min(5) }),
  z.object({ type: z.literal('tieNeutrals'), breakerIds: z.array(idSchema).min(2).max(4), basis: note.min(3) }),
  z.object({ type: z.literal('openBox'), boxId: idSchema }),
  z.object({ type: z.literal('closeBox'), boxId: idSchema }),
  z.object({ type: z.literal('guardBox'), boxId: idSchema, how: note.min(5) }),
  z.object({ type: z.literal('recordConductors'), boxId: idSchema, conductors: z.array(conductorSchema).min(1).max(30) }),
  z.object({ type: z.literal('startProof'), proofId: idSchema, boxId: idSchema, instrumentId: idSchema, source: proofSource, volts }),
  z.object({
    type: z.literal('seeReference'),
    proofId: idSchema,
    reference: z.enum(['boxGround', 'wanderLead', 'panelEarth']),
    against: name,
    volts,
    letter: z
      .string()
      .regex(/^[A-Z]{1,2}$/)
      .nullable()
      .default(null),
  }),
  z.object({
    type: z.literal('takeReading'),
    proofId: idSchema,
    a: pairEnd,
    b: pairEnd,
    position: z.string().max(60),
    impedance: z.enum(impedances),
    volts,
  }),
  z.object({
    type: z.literal('sweepReadings'),
    proofId: idSchema,
    pairs: z
      .array(z.object({ a: pairEnd, b: pairEnd }))
      .min(1)
      .max(500),
    position: z.string().max(60),
    impedance: z.enum(impedances),
    /** The highest of all of them. */
    highestVolts: volts,
  }),
  z.object({ type: z.literal('finishProof'), proofId: idSchema, volts }),
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
  z.object({ type: z.literal('overrideGrant'), grantId: idSchema, reason: note.min(10), leftBuildingVerified: z.literal(true) }),
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
  z.object({ type: z.literal('testParted'), partId: idSchema, voltsHere: volts, voltsAway: volts }),
  z.object({ type: z.literal('startSolo'), contact: name, everyMinutes: z.int().min(10).max(120).default(30) }),
  z.object({ type: z.literal('checkIn') }),
  z.object({ type: z.literal('endSolo') }),
  z.object({ type: z.literal('confirmStopped') }),
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
export interface InstrumentSnapshot {
  name: string
  serial: string
  kind: 'high' | 'low' | 'both'
  calibrationDue: string
}

export type SiteEvent =
  | { type: 'siteLaidOut'; payload: Payload<'layOut'> }
  | { type: 'breakerObserved'; payload: Payload<'observeBreaker'> & Consequence & { late: boolean; again: boolean; knewSeq: number } }
  | { type: 'liveObserved'; payload: Payload<'observeLive'> & Consequence }
  | { type: 'tripCauseRecorded'; payload: Payload<'recordTripCause'> }
  | { type: 'offLimitsMarked'; payload: Payload<'markOffLimits'> }
  | { type: 'tagHung'; payload: Payload<'hangTag'> }
  | { type: 'tagRemoved'; payload: Payload<'removeTag'> & { breakerId: string; voids: string[] } }
  | { type: 'tagRehung'; payload: Payload<'rehangTag'> & { breakerId: string; voids: string[] } }
  | { type: 'tagOverridden'; payload: Payload<'overrideTag'> & { breakerId: string; ownerId: string; ownerName: string } & Consequence }
  | { type: 'feedsSet'; payload: Payload<'setFeeds'> & Consequence }
  | { type: 'roundSeen'; payload: Payload<'observeRound'> & { open: string[] } & Consequence }
  | { type: 'roundsForgotten'; payload: Payload<'forgetRounds'> }
  | { type: 'neutralsTied'; payload: Payload<'tieNeutrals'> & Consequence }
  | { type: 'boxOpened'; payload: Payload<'openBox'> & { alarms?: string[] } }
  | { type: 'boxClosed'; payload: Payload<'closeBox'> & { voids: string[] } }
  | { type: 'boxGuarded'; payload: Payload<'guardBox'> & { voids: string[] } }
  | { type: 'conductorsRecorded'; payload: Payload<'recordConductors'> & Consequence }
  | { type: 'proofStarted'; payload: Payload<'startProof'> & { instrument: InstrumentSnapshot; warning: string | null } }
  | { type: 'referenceSeen'; payload: Payload<'seeReference'> }
  | { type: 'readingTaken'; payload: Payload<'takeReading'> & { verdict: string; stopped: boolean } & Consequence }
  | { type: 'readingsSwept'; payload: Payload<'sweepReadings'> }
  | {
      type: 'proofFinished'
      payload: Payload<'finishProof'> & {
        good: boolean
        reason: string | null
        boxId: string
        /** When it was really made, if it waited on a phone without network. */
        finishedAt?: string
        /** The newest seq its maker knew of: a breaker closed after that was not on while this was read. */
        knewSeq?: number
      }
    }
  | { type: 'proofAbandoned'; payload: Payload<'abandonProof'> & { boxId: string } }
  | { type: 'proofWitnessed'; payload: Payload<'witnessProof'> & { boxId: string } }
  | { type: 'closeGranted'; payload: Payload<'requestClose'> & { expiresAt: string | null } & Consequence }
  | { type: 'grantAnswered'; payload: Payload<'answerGrant'> & { breakerId: string } }
  | { type: 'grantOverridden'; payload: Payload<'overrideGrant'> & { breakerId: string; ownerName: string } & Consequence }
  | { type: 'openAsked'; payload: Payload<'askOpen'> }
  | { type: 'energiseAsked'; payload: Payload<'askEnergise'> & { asks: string[] } }
  | { type: 'askWithdrawn'; payload: Payload<'withdrawAsk'> }
  | { type: 'clearConfirmed'; payload: Payload<'confirmClear'> & { breakerId: string; tagIds: string[] } }
  | { type: 'clearTakenBack'; payload: Payload<'takeBackClear'> }
  | { type: 'measuringStarted'; payload: Payload<'startMeasuring'> & { asks: string[] } }
  | { type: 'measuringEnded'; payload: Payload<'endMeasuring'> }
  | { type: 'neutralParted'; payload: Payload<'partNeutral'> }
  | { type: 'partedTested'; payload: Payload<'testParted'> & { boxId: string; stopped: boolean } & Consequence }
  | { type: 'soloStarted'; payload: Payload<'startSolo'> & { dueAt: string } }
  | { type: 'checkedIn'; payload: { dueAt: string } }
  | { type: 'soloEnded'; payload: Record<string, never> }
  | { type: 'stopConfirmed'; payload: Record<string, never> }
  /** `people`: everyone who left, when a whole crew ends its visit; `handOver`: who stays with an open box. */
  | {
      type: 'siteLeft'
      payload: { voids: string[]; people?: string[]; handOver?: Record<string, { personId: string; name: string; initials: string }> }
    }
export type SiteEventType = SiteEvent['type']
