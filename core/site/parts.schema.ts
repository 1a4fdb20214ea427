import { z } from 'zod'
import { mostVolts } from './most-volts'
import { idSchema } from '../stream/command-envelope'
import { awgSizes, metricSizes } from '../units/awg'
import { letter } from '../units/letter'
import { protections } from './survey-words'
import { breakerRoles, breakerStates, conductorColours, instrumentKinds, sourceKinds } from './words'
import { name, note } from '../stream/words.schema'

export { name, note } from '../stream/words.schema'

export const volts = z.number().min(0).max(mostVolts)

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
  protection: z.enum(protections).default('unknown'),
})

export type SiteBreaker = z.infer<typeof breakerSchema>

export const proofSource = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('breaker'), breakerId: idSchema, name }),
  z.object({ kind: z.literal('provingUnit'), name }),
])

/** How one knows that a neutral carries nothing before its splice is parted. */
export const partBasis = z.discriminatedUnion('kind', [
  /** `loadsOn`: with the loads of the other circuits switched on; a clamp proves nothing while they are off. */
  z.object({ kind: z.literal('clamp'), amps: z.number().min(0).max(200), loadsOn: z.boolean().default(false) }),
  z.object({ kind: z.literal('partnersOpen'), breakerIds: z.array(idSchema).min(1).max(6) }),
])

export const pairEnd = z.string().regex(/^(REF2?|[A-Z]{1,2})$/)

export const ohms = z.number().min(0).max(10_000_000)

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
export const again = z.object({ volts, impedance: z.enum(['low', 'steps']), instrumentId: idSchema })

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

/** Living proofs an entry ends, and the people it must alarm. */
export const consequence = { voids: z.array(z.string()), alarms: z.array(z.string()) }
export type Consequence = z.infer<z.ZodObject<typeof consequence>>
/** What a sign of voltage does: besides ending proofs it may hold others in suspense, and it waits for its cause. */
export const signConsequence = {
  ...consequence,
  /** Boxes the doubt reaches, the box itself first. */
  reached: z.array(z.string()),
  /** Living proofs that wait for a low-impedance reading of the same pair. */
  suspends: z.array(z.string()),
  /** Only by high impedance yet: the same pair by low impedance, in time, clears it. */
  suspense: z.boolean(),
  /** The record cannot explain it: a cause has to be recorded. */
  unexplained: z.boolean(),
}
export type SignConsequence = z.infer<z.ZodObject<typeof signConsequence>>
export const instrumentSnapshotSchema = z.object({
  name: z.string(),
  serial: z.string(),
  kind: z.enum(instrumentKinds),
  calibrationDue: z.string(),
  /** Of a two-pole detector: the lowest voltage it shows, V. */
  lowestStepVolts: z.number().nullable(),
  /** Failed, and no lead has recorded yet what was done and that it proved good on two sources. */
  outOfService: z.boolean(),
  /** When it last came back into service. */
  provedGoodAt: z.string().nullable(),
})
export type InstrumentSnapshot = z.infer<typeof instrumentSnapshotSchema>
export type InstrumentKind = InstrumentSnapshot['kind']
export const personSchema = z.object({ personId: z.string(), name: z.string(), initials: z.string() })
