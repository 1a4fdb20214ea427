import { z } from 'zod'
import { idSchema } from '../stream/command-envelope'
import { name, note } from '../stream/words.schema'
import { awgSizes, metricSizes } from '../units/awg'
import {
  boxFaults,
  boxKinds,
  connectorKinds,
  groundFinds,
  holdKinds,
  lookDepths,
  networkBands,
  networkKinds,
  neutralFinds,
  oldDevices,
  plateKinds,
  protections,
} from './survey-words'
import { conductorColours } from './words'

const sizes = <T extends readonly number[]>(all: T) =>
  z.union(all.map((size) => z.literal(size)) as never as [z.ZodLiteral<number>, z.ZodLiteral<number>])

/** One cable that enters a box, as seen without touching it. Which conductor is which is found out later, at the bench. */
export const surveyCableSchema = z.object({
  gaugeAwg: sizes(awgSizes).nullable(),
  areaMm2: sizes(metricSizes).nullable(),
  colours: z.array(z.enum(conductorColours)).min(1).max(8),
  stranded: z.boolean(),
})
export type SurveyCable = z.infer<typeof surveyCableSchema>

export const oldDeviceSchema = z.object({
  gang: z.int().min(1).max(6),
  is: z.enum(oldDevices),
  holds: z.enum(holdKinds).nullable(),
  /** Where it stays as an input: which way is on, and whether the household wants to keep it. */
  onWhen: z.enum(['up', 'down', 'either']).nullable(),
  keep: z.boolean().nullable(),
})
export type SurveyedDevice = z.infer<typeof oldDeviceSchema>

/** What is noted of a box. Each part alone; what is left out stays as it was, null takes it back. */
export const notedSchema = z.object({
  kind: z.enum(boxKinds).nullable().optional(),
  looked: z.enum(lookDepths).nullable().optional(),
  /** Marked or tabulated volume, in³ (120/240 V). */
  volumeIn3: z.number().positive().max(500).nullable().optional(),
  /** Back-box depth, mm (230 V). */
  depthMm: z.number().positive().max(200).nullable().optional(),
  material: z.enum(['plastic', 'metal', 'unknown']).optional(),
  internalClamps: z.int().min(0).max(8).optional(),
  supportFittings: z.int().min(0).max(4).nullable().optional(),
  cables: z.array(surveyCableSchema).max(12).nullable().optional(),
  neutral: z.enum(neutralFinds).nullable().optional(),
  ground: z.enum(groundFinds).nullable().optional(),
  old: z.array(oldDeviceSchema).max(6).nullable().optional(),
  splices: z
    .array(z.object({ connector: z.enum(connectorKinds), conductors: z.int().min(2).max(8), freePorts: z.int().min(0).max(6) }))
    .max(12)
    .nullable()
    .optional(),
  /** What is fed onward from here: tested again when the work is done. */
  onward: z.string().trim().max(120).nullable().optional(),
  faults: z
    .array(z.object({ is: z.enum(boxFaults), then: z.enum(['open', 'offered', 'declined']) }))
    .max(7)
    .nullable()
    .optional(),
  /** The shortest free end, mm from where it leaves its cable. */
  freeLengthMm: z.int().min(0).max(600).nullable().optional(),
  plate: z.enum(plateKinds).nullable().optional(),
  finish: z.string().trim().max(40).nullable().optional(),
})
export type Noted = z.infer<typeof notedSchema>

export const letterMarkSchema = z.object({
  letter: z.string().regex(/^[A-Z]{1,2}$/),
  x: z.number().min(0).max(1),
  y: z.number().min(0).max(1),
})

export const networkSchema = z.object({
  networkId: idSchema,
  kind: z.enum(networkKinds),
  name,
  bands: z.array(z.enum(networkBands)).max(3),
  /** Wi-Fi channel in the 2.4 GHz band. */
  channel: z.int().min(1).max(14).nullable(),
  /** The extender has a name of its own: a device that joined the one does not find the other. */
  ownName: z.boolean(),
  /** Devices on it cannot talk to the rest of the home. */
  isolated: z.boolean(),
  /** How many devices it holds now, and how many it can. */
  holds: z.int().min(0).max(500).nullable(),
  holdsMost: z.int().min(1).max(1000).nullable(),
  note: z.string().trim().max(200),
  /** Devices that still obey a previous owner: what and where. Each is reset before it joins anything. */
  bound: z.array(z.string().trim().min(1).max(80)).max(20).default([]),
  /** The room it stands in; null: not said. */
  roomId: idSchema.nullable(),
})
export type HomeNetwork = z.infer<typeof networkSchema>

/**
 * Where a room is: on a rough plan of its floor, metres from its left upper corner; or only what lies between it and the router
 * (`walls` null: not counted).
 */
export const roomPlaceSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('plan'),
    floor: z.int().min(-3).max(40),
    x: z.number().min(0).max(200),
    y: z.number().min(0).max(200),
    width: z.number().min(0.5).max(100),
    depth: z.number().min(0.5).max(100),
  }),
  z.object({
    kind: z.literal('between'),
    metres: z.number().min(0).max(200),
    walls: z.int().min(0).max(20).nullable(),
    floors: z.int().min(0).max(10),
  }),
])
export type RoomPlace = z.infer<typeof roomPlaceSchema>

export const signalReadingSchema = z.object({
  readingId: idSchema,
  /** Where: at a box, or somewhere in a room. */
  boxId: idSchema.nullable(),
  roomId: idSchema.nullable(),
  networkId: idSchema.nullable(),
  band: z.enum(networkBands),
  dbm: z.int().min(-120).max(-10).nullable(),
  bars: z.int().min(0).max(4).nullable(),
  /** The time a page's own question took there and back, ms: all a browser can say of a signal. */
  roundTripMs: z.int().min(0).max(60_000).nullable(),
})
export type SignalReading = z.infer<typeof signalReadingSchema>

export const breakerNumber = z.string().trim().min(1).max(12)
export const breakerFacts = {
  number: breakerNumber,
  poles: z.int().min(1).max(3),
  amps: z.number().positive().max(400).nullable(),
  labelAsFound: z.string().trim().max(120),
  protection: z.enum(protections),
}
export const reason = note.min(3)
