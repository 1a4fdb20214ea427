import { z } from 'zod'
import { awgSizes, schemeIds } from '../units'
import { signMeanings } from '../commission/pairing/words'
import { deviceKinds, gestureEffects, gestures, restartWays, radioKinds, terminalKeys, terminationKinds } from './words'

/** How conductors go into a device, as its maker says. Null: not on record. */
export const terminationSchema = z.object({
  kind: z.enum(terminationKinds),
  /** Gauges it takes: AWG from the thinnest to the thickest, or mm². */
  thinnestAwg: z.number().min(6).max(18).nullable(),
  thickestAwg: z.number().min(6).max(18).nullable(),
  thinnestMm2: z.number().positive().max(6).nullable(),
  thickestMm2: z.number().positive().max(6).nullable(),
  stranded: z.boolean(),
  /** Conductors that one terminal takes; of leads: one. */
  holds: z.int().min(1).max(4),
  stripMm: z.number().positive().max(30).nullable(),
  torqueNm: z.number().positive().max(5).nullable(),
})
export type Termination = z.infer<typeof terminationSchema>

/** One model of the company's catalogue, as far as choosing, wiring and testing it needs. */
export const deviceModelSchema = z.object({
  id: z.uuid(),
  maker: z.string().trim().min(1).max(60),
  name: z.string().trim().min(1).max(80),
  kind: z.enum(deviceKinds),
  schemes: z.array(z.enum(schemeIds)).min(1),
  terminals: z.array(z.enum(terminalKeys)).min(1),
  /** Gangs it takes; 0 for a module without a yoke. */
  gangsWide: z.int().min(0).max(3),
  bodyIn3: z.number().min(0).max(60),
  depthMm: z.number().min(0).max(90),
  terminalAwg: z.union(awgSizes.map((size) => z.literal(size)) as never as [z.ZodLiteral<number>, z.ZodLiteral<number>]).default(14),
  /** Highest load per technology, watts; 0: not allowed. */
  maxWatts: z.object({
    led: z.number().min(0),
    filament: z.number().min(0),
    fan: z.number().min(0),
    motor: z.number().min(0),
    socket: z.number().min(0),
  }),
  minWatts: z.number().min(0).max(200).default(0),
  multiWay: z.enum(['single', 'commonTravelers', 'sensedTraveler', 'companion']),
  setupCode: z.enum(['openHome', 'plain', 'none']),
  firstIndicator: z.string().trim().max(120).default(''),
  pairingSteps: z.array(z.string().trim().min(1).max(160)).max(8).default([]),
  /** Minutes the pairing window stays open after power-on; null: no limit known. */
  pairingWindowMinutes: z.number().positive().max(120).nullable().default(null),
  needsHub: z.boolean().default(false),
  /** Line and load may be exchanged at this model. A property of the model: others fail when reversed. */
  leadsInterchangeable: z.boolean().default(false),
  /** It measures what its loads take. */
  metering: z.boolean().default(false),
  /** The most one of its channels carries, amperes; null: only the watts above count. */
  channelAmps: z.number().positive().max(40).nullable().default(null),
  termination: terminationSchema.nullable().default(null),
  /** Comes with a plate of its own: it joins no plate of a row. */
  ownPlate: z.boolean().default(false),
  /** Its maker allows it in a box of one gang only. */
  oneGangOnly: z.boolean().default(false),
  /** What is left of its limits beside one neighbour and between two, fins broken off: 1 is all. */
  besideOne: z.number().positive().max(1).default(1),
  betweenTwo: z.number().positive().max(1).default(1),
  /** Companions and what they belong to bear the same word; empty: any. */
  family: z.string().trim().max(40).default(''),
  radio: z.enum(radioKinds).default('unknown'),
  /** It breaks both conductors: needed where neither is tied to earth. */
  bothPoles: z.boolean().default(false),
  /** How this very model is started anew, and how everything it learnt is taken from it, as its maker says; empty: not on record. */
  restart: z.string().trim().max(160).default(''),
  reset: z.string().trim().max(160).default(''),
  /** Started anew by itself (an air gap, a cam, keys), its pairing window opens again; or only by its breaker. */
  restartsBy: z.enum(restartWays).default('unknown'),
  /** How it is joined by a network of its own, where it has one. */
  ownNetwork: z.string().trim().max(200).default(''),
  /** What it shows while it is joined, and what each sign means. */
  signs: z
    .array(z.object({ sign: z.string().trim().min(1).max(60), means: z.enum(signMeanings) }))
    .max(10)
    .default([]),
  /** What hands do at its front, as its maker says; none: not on record. */
  gestures: z
    .array(z.object({ gesture: z.enum(gestures), does: z.enum(gestureEffects) }))
    .max(8)
    .default([]),
  /** The battery it runs on, as its maker writes it; empty: none, or not on record. */
  battery: z.string().trim().max(60).default(''),
  /** Years a battery lasts in it, as its maker says; null: not said. */
  batteryYears: z.number().positive().max(20).nullable().default(null),
})
export type DeviceModel = z.infer<typeof deviceModelSchema>
