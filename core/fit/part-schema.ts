import { z } from 'zod'
import { connectorKinds, plateKinds } from '../site/survey-words'
import { schemeIds } from '../units'

const ofMaker = {
  maker: z.string().trim().min(1).max(60),
  name: z.string().trim().min(1).max(80),
  schemes: z.array(z.enum(schemeIds)).min(1),
}
const gangs = z.int().min(1).max(6)
const box = z.object({
  ...ofMaker,
  kind: z.literal('box'),
  gangs,
  /** As marked, in³ (120/240 V); depth, mm (230 V). */
  volumeIn3: z.number().positive().max(500).nullable(),
  depthMm: z.number().positive().max(200).nullable(),
  material: z.enum(['plastic', 'metal']),
  internalClamps: z.int().min(0).max(8),
})
const plate = z.object({ ...ofMaker, kind: z.literal('plate'), gangs, plate: z.enum(plateKinds), finish: z.string().trim().max(40) })
const connector = z.object({
  ...ofMaker,
  kind: z.literal('connector'),
  connector: z.enum(connectorKinds),
  /** Conductors it joins at most, and the room its body takes, in³. */
  most: z.int().min(2).max(8),
  bodyIn3: z.number().positive().max(3),
  stranded: z.boolean(),
})
const lamp = z.object({
  ...ofMaker,
  kind: z.literal('lamp'),
  technology: z.enum(['led', 'filament']),
  watts: z.number().positive().max(3000),
  dimmable: z.boolean(),
  /** As its maker says; null: not on record. */
  powerFactor: z.number().min(0.1).max(1).nullable(),
})

const id = { id: z.uuid() }
/** What goes into a wall besides devices: boxes, plates, connectors, and the lamps behind them. */
export const partSchema = z.discriminatedUnion('kind', [box.extend(id), plate.extend(id), connector.extend(id), lamp.extend(id)])
/** The same before it has an id. */
export const newPartSchema = z.discriminatedUnion('kind', [box, plate, connector, lamp])
export type NewPart = z.infer<typeof newPartSchema>
export type Part = z.infer<typeof partSchema>
export type PartKind = Part['kind']
export const partKinds = ['box', 'plate', 'connector', 'lamp'] as const satisfies readonly PartKind[]
