import { z } from 'zod'
import { idSchema } from '../stream'
import { loadTechnologies, type DeviceModel } from '../fit'
import { conductorRoles, roleMethods } from '../connect'
import { strokesSchema } from '../site/schema'
import { letter } from '../units/letter'
import type { ElsewhereStep, VerdictCode } from '../wiring'
import { foundBoxSchema, wireReadingSchema } from '../wiring/identify/found-box-schema'
import { wiringPlanSchema } from '../wiring/plan/plan-schema'
import { callbackRemedies, causeKinds, oldUnitFates, photoKinds, visitKinds } from './words'

const name = z.string().trim().min(1).max(80)
const note = z.string().trim().max(500)
const when = z.iso.datetime({ offset: true })
const gang = z.int().min(1).max(6)

export const loadSchema = z.object({
  technology: z.enum(loadTechnologies),
  lamps: z.int().min(1).max(60).default(1),
  wattsEach: z.number().min(0).max(3000),
  dimmable: z.boolean().default(false),
})
export const controlSchema = z.object({ boxId: idSchema, gang })
export const pointSchema = z.object({
  id: idSchema,
  roomId: idSchema,
  name,
  load: loadSchema,
  controls: z.array(controlSchema).min(1).max(6),
  /** A motor that must not stay off. */
  mustRun: z.boolean().default(false),
})
export type LightPoint = z.infer<typeof pointSchema>

export const signalSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('dbm'), dbm: z.int().min(-120).max(-10) }),
  z.object({ kind: z.literal('bars'), bars: z.int().min(0).max(5) }),
])
const visitTimes = {
  startsAt: when,
  endsAt: when,
  windowFrom: when,
  windowTo: when,
  personIds: z.array(idSchema).min(1).max(6),
  /** Said after it was asked: somebody is on two visits at once, and that is meant. */
  alsoBooked: z.boolean().default(false),
}
const setupCode = { setupCode: z.string().max(60).default(''), setupCodeAgain: z.string().max(60).default('') }
const serial = z.string().trim().min(3, 'A serial has at least 3 characters.').max(60)
/** What one notes of a box before anything is undone. Colours, cables and breakers come from the site's record. */
export const foundNotesSchema = foundBoxSchema.pick({
  farSwitches: true,
  splices: true,
  oldSwitches: true,
  complete: true,
  wiredYear: true,
  guards: true,
})
/** What was seen with everything standing in one way. */
const observationSchema = z.object({
  positions: z.record(z.string().max(12), z.int().min(0).max(7)),
  lights: z.record(z.string().max(12), z.enum(['on', 'dim', 'glow', 'off'])),
  trips: z.array(z.string().max(12)).max(3),
})

/** Everything a person can do to the record of a job. */
export const jobCommandSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('openJob'),
    siteId: idSchema,
    title: name,
    note: note.default(''),
    boxIds: z.array(idSchema).max(200),
    points: z.array(pointSchema).max(300),
  }),
  z.object({
    type: z.literal('scheduleVisit'),
    visitId: idSchema,
    kind: z.enum(visitKinds),
    callbackId: idSchema.nullable().default(null),
    ...visitTimes,
  }),
  z.object({ type: z.literal('moveVisit'), visitId: idSchema, ...visitTimes }),
  z.object({ type: z.literal('cancelVisit'), visitId: idSchema, reason: note.min(3) }),
  z.object({ type: z.literal('arrive'), visitId: idSchema }),
  z.object({ type: z.literal('finishVisit'), visitId: idSchema }),
  /** It was ended by mistake, or somebody came back. */
  z.object({ type: z.literal('resumeVisit'), visitId: idSchema }),
  z.object({
    type: z.literal('addPhoto'),
    photoId: idSchema,
    boxId: idSchema.nullable(),
    kind: z.enum(photoKinds),
    caption: note.default(''),
  }),
  z.object({
    type: z.literal('establishRole'),
    boxId: idSchema,
    letter,
    role: z.enum(conductorRoles),
    method: z.enum(roleMethods),
    /** Measured while live: what was read, V. A line against the ground in both positions of its switch; a neutral from a line and to the ground. */
    volts: z.array(z.number().min(0).max(1000)).max(2).default([]),
    /** By continuity: what was read, ohms. */
    ohms: z.number().min(0).max(1e9).nullable().default(null),
  }),
  z.object({ type: z.literal('noteFound'), boxId: idSchema, notes: foundNotesSchema }),
  z.object({ type: z.literal('readWires'), boxId: idSchema, readings: z.array(wireReadingSchema).min(1).max(80) }),
  z.object({ type: z.literal('forgetReadings'), boxId: idSchema, reason: note.min(5) }),
  /** Somebody looked at what was done after its proof had ended, and it is right. */
  z.object({ type: z.literal('clearDoubt'), boxId: idSchema }),
  z.object({ type: z.literal('planWiring'), boxId: idSchema, plan: wiringPlanSchema.nullable() }),
  z.object({ type: z.literal('observeFunctions'), boxId: idSchema, rows: z.array(observationSchema).max(128) }),
  z.object({ type: z.literal('chooseDevice'), boxId: idSchema, gang, modelId: idSchema, pointIds: z.array(idSchema).max(4) }),
  /** Nothing goes in here, or nobody knows yet what. */
  z.object({ type: z.literal('unchooseDevice'), boxId: idSchema, gang }),
  /** The old switch stays in this gang: no device goes in. Or not after all. */
  z.object({ type: z.literal('keepOldSwitch'), boxId: idSchema, gang, stays: z.boolean() }),
  z.object({ type: z.literal('markStep'), boxId: idSchema, gang, stepId: z.string().max(40), done: z.boolean() }),
  z.object({ type: z.literal('recordUnit'), unitId: idSchema, boxId: idSchema, gang, serial, ...setupCode }),
  z.object({
    type: z.literal('testPoint'),
    pointId: idSchema,
    checkId: z.string().max(160),
    result: z.enum(['pass', 'fail']),
    note: note.default(''),
  }),
  z.object({
    type: z.literal('recordPairing'),
    unitId: idSchema,
    result: z.enum(['joined', 'failed']),
    network: z.string().trim().max(64).default(''),
    signal: signalSchema.nullable().default(null),
    note: note.default(''),
  }),
  z.object({ type: z.literal('nameUnit'), unitId: idSchema, name, despiteClash: z.boolean().default(false) }),
  z.object({ type: z.literal('listDefect'), defectId: idSchema, pointId: idSchema.nullable(), text: note.min(5) }),
  z.object({ type: z.literal('settleDefect'), defectId: idSchema, how: note.min(3) }),
  z.object({ type: z.literal('tickHandover'), itemId: z.string().max(60), done: z.boolean() }),
  z.object({
    type: z.literal('signHandover'),
    signatureId: idSchema,
    signer: name,
    strokes: strokesSchema,
    acceptedDefectIds: z.array(idSchema).max(50),
  }),
  z.object({ type: z.literal('completeHandover') }),
  z.object({
    type: z.literal('openCallback'),
    callbackId: idSchema,
    unitId: idSchema,
    what: note.min(5),
    since: z.iso.date(),
    offlineInApp: z.boolean(),
    wallSwitchFlipped: z.boolean(),
    routerChanged: z.boolean(),
    breakerTripped: z.boolean(),
  }),
  z.object({
    type: z.literal('diagnoseCallback'),
    callbackId: idSchema,
    causeKind: z.enum(causeKinds),
    cause: note.min(5),
    remedy: z.enum(callbackRemedies),
  }),
  z.object({
    type: z.literal('replaceUnit'),
    callbackId: idSchema,
    oldUnitId: idSchema,
    newUnitId: idSchema,
    serial,
    oldUnitGoes: z.enum(oldUnitFates),
    ...setupCode,
  }),
  z.object({ type: z.literal('closeCallback'), callbackId: idSchema, resolution: note.min(5) }),
])
export type JobCommand = z.infer<typeof jobCommandSchema>
export type JobCommandType = JobCommand['type']
type Payload<T extends JobCommandType> = Omit<Extract<JobCommand, { type: T }>, 'type'>

/** A setup code as stored: sealed for the record, with its last two characters to recognise it by. */
export interface StoredCode {
  kind: 'manual' | 'qr' | 'plain' | 'none'
  sealed: string | null
  ending: string
  checked: 'checkDigit' | 'payload' | 'typedTwice' | 'none'
}

type WithCode<T> = Omit<T, 'setupCode' | 'setupCodeAgain'> & { code: StoredCode; model: DeviceModel }

export type JobEvent =
  | { type: 'jobOpened'; payload: Payload<'openJob'> }
  | { type: 'visitScheduled'; payload: Payload<'scheduleVisit'> }
  | { type: 'visitMoved'; payload: Payload<'moveVisit'> }
  | { type: 'visitCancelled'; payload: Payload<'cancelVisit'> }
  | { type: 'arrived'; payload: Payload<'arrive'> }
  | { type: 'visitFinished'; payload: Payload<'finishVisit'> }
  | { type: 'visitResumed'; payload: Payload<'resumeVisit'> }
  | { type: 'photoAdded'; payload: Payload<'addPhoto'> }
  /** `inDoubt`: it waited on a phone, and the proof it was done under had ended before it arrived. */
  | { type: 'roleEstablished'; payload: Payload<'establishRole'> & { inDoubt?: true } }
  | { type: 'doubtCleared'; payload: Payload<'clearDoubt'> }
  | { type: 'foundNoted'; payload: Payload<'noteFound'> }
  | { type: 'wiresRead'; payload: Payload<'readWires'> }
  | { type: 'readingsForgotten'; payload: Payload<'forgetReadings'> }
  | { type: 'wiringPlanned'; payload: Payload<'planWiring'> & { against?: VerdictCode[]; elsewhere?: ElsewhereStep[] } }
  | { type: 'functionsObserved'; payload: Payload<'observeFunctions'> }
  | { type: 'deviceChosen'; payload: Payload<'chooseDevice'> & { model: DeviceModel; against?: VerdictCode[] } }
  | { type: 'deviceUnchosen'; payload: Payload<'unchooseDevice'> }
  | { type: 'oldSwitchKept'; payload: Payload<'keepOldSwitch'> }
  | { type: 'stepMarked'; payload: Payload<'markStep'> & { text: string; modelId: string | null; inDoubt?: true } }
  | { type: 'unitRecorded'; payload: WithCode<Payload<'recordUnit'>> }
  | { type: 'pointTested'; payload: Payload<'testPoint'> & { what: string; madeAt: string } }
  | { type: 'pairingRecorded'; payload: Payload<'recordPairing'> }
  | { type: 'unitNamed'; payload: Payload<'nameUnit'> }
  | { type: 'unitNameContested'; payload: Payload<'nameUnit'> }
  | { type: 'defectListed'; payload: Payload<'listDefect'> }
  | { type: 'defectSettled'; payload: Payload<'settleDefect'> }
  | { type: 'handoverTicked'; payload: Payload<'tickHandover'> & { text: string } }
  | { type: 'handoverSigned'; payload: Payload<'signHandover'> }
  | { type: 'handoverCompleted'; payload: Record<string, never> }
  | { type: 'callbackOpened'; payload: Payload<'openCallback'> }
  | { type: 'callbackDiagnosed'; payload: Payload<'diagnoseCallback'> }
  | { type: 'unitReplaced'; payload: WithCode<Payload<'replaceUnit'>> & { oldSerial: string } }
  | { type: 'callbackClosed'; payload: Payload<'closeCallback'> }
export type JobEventType = JobEvent['type']
