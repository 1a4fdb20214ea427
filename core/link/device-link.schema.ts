import { z } from 'zod'
import { linkedKinds, linkFaults } from './words'

/** One load of a device: what can be asked of it. */
export const linkedChannelSchema = z.strictObject({
  endpoint: z.int().min(0).max(65_535),
  level: z.boolean(),
  speed: z.boolean(),
  meter: z.boolean(),
})
export const joinedDeviceSchema = z.strictObject({
  /** What the device says of itself. */
  vendor: z.string().max(64),
  product: z.string().max(64),
  serial: z.string().max(64),
  channels: z.array(linkedChannelSchema).max(32),
  /** How well it hears the network; null: it does not say. */
  dbm: z.int().min(-128).max(0).nullable(),
  /** The network it is on; empty: it does not say. */
  network: z.string().max(64),
  /** From the asking to the end of joining. */
  ms: z.int().min(0),
})
export const readingSchema = z.strictObject({
  on: z.boolean(),
  /** Percent; null: it has none. */
  level: z.int().min(0).max(100).nullable(),
  watts: z.number().nullable(),
})
/** One thing that is tried at a channel: it is set, or only read. */
export const linkStepSchema = z.strictObject({
  checkId: z.string().max(160),
  endpoint: z.int().min(0),
  on: z.boolean().nullable(),
  level: z.int().min(0).max(100).nullable(),
  /** Nothing is set: somebody presses it at the wall meanwhile. */
  hears: z.boolean(),
})
/** A home that is on a device, by the device’s own list. */
export const homeOnDeviceSchema = z.strictObject({
  /** As its app calls itself; empty: it does not. */
  label: z.string().max(64),
  /** The installer of this job. */
  own: z.boolean(),
})
/** What a stand-in cannot know of the home that it plays in; a real network is asked of none of it. */
export const surroundingsSchema = z.strictObject({
  powered: z.boolean(),
  /** Its window is open, by the record. */
  windowOpen: z.boolean(),
  /** 5 GHz is paused, or the phone and the network are at 2.4 GHz. */
  narrowBand: z.boolean(),
  /** Everything it learnt was taken from it, by the record. */
  reset: z.boolean(),
  kind: z.enum(linkedKinds),
  serial: z.string().max(64),
  /** What hangs on it when it is on, by channel. */
  watts: z.array(z.number()).max(8),
})
export const linkWorkSchema = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('join'), code: z.string().max(200) }),
  z.strictObject({ do: z.literal('check'), steps: z.array(linkStepSchema).min(1).max(60) }),
  /** Its meter is read again and again for so long. */
  z.strictObject({
    do: z.literal('trace'),
    endpoint: z.int().min(0),
    seconds: z.int().min(1).max(140),
    everySeconds: z.number().min(0.05).max(30),
  }),
  z.strictObject({ do: z.literal('name'), name: z.string().max(100) }),
  /** A window for one more home, with a code of its own. */
  z.strictObject({ do: z.literal('open'), seconds: z.int().min(180).max(900) }),
  z.strictObject({ do: z.literal('homes') }),
  /** gone: it is in the wall no more, and is only forgotten. anyway: also where no other home is on it. */
  z.strictObject({ do: z.literal('leave'), gone: z.boolean(), anyway: z.boolean() }),
])
export type LinkWork = z.infer<typeof linkWorkSchema>
/** One thing that the link is asked to do. */
export const linkTaskSchema = z.strictObject({
  id: z.uuid(),
  jobId: z.uuid(),
  unitId: z.uuid(),
  /** 32 bytes in base64: what the fabric of this job is sealed with. */
  seal: z.string(),
  around: surroundingsSchema,
  work: linkWorkSchema,
})
export type LinkTask = z.infer<typeof linkTaskSchema>

/** What a meter read: seconds since 1970, and watts. */
export const meterTraceSchema = z.strictObject({ at: z.array(z.number()).max(400), watts: z.array(z.number()).max(400) })
export type MeterTrace = z.infer<typeof meterTraceSchema>

const fault = z.strictObject({ ok: z.literal(false), fault: z.enum(linkFaults), note: z.string().max(300) })
export const linkAnswerSchema = z.union([
  fault,
  z.strictObject({ ok: z.literal(true), did: z.literal('join'), device: joinedDeviceSchema }),
  z.strictObject({
    ok: z.literal(true),
    did: z.literal('check'),
    results: z.array(z.strictObject({ checkId: z.string().max(160), reading: readingSchema.nullable(), ms: z.int().min(0) })).max(60),
  }),
  z.strictObject({ ok: z.literal(true), did: z.literal('trace'), trace: meterTraceSchema }),
  z.strictObject({ ok: z.literal(true), did: z.literal('name'), kept: z.string().max(64) }),
  z.strictObject({ ok: z.literal(true), did: z.literal('open'), code: z.string().max(40), square: z.string().max(120) }),
  z.strictObject({ ok: z.literal(true), did: z.literal('homes'), homes: z.array(homeOnDeviceSchema).max(32) }),
  z.strictObject({ ok: z.literal(true), did: z.literal('leave'), homesLeft: z.int().nullable() }),
])
export type LinkAnswer = z.infer<typeof linkAnswerSchema>
