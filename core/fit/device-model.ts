import { z } from 'zod'
import { awgSizes, schemeIds } from '../units'

export const terminalKeys = ['line', 'load', 'neutral', 'ground', 'common', 'traveler1', 'traveler2', 'sense'] as const
export type TerminalKey = (typeof terminalKeys)[number]

export const deviceKinds = ['switch', 'dimmer', 'fanControl', 'companion', 'relayModule'] as const
export const loadTechnologies = ['led', 'filament', 'fan', 'motor', 'socket'] as const
export type LoadTechnology = (typeof loadTechnologies)[number]

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
})
export type DeviceModel = z.infer<typeof deviceModelSchema>

export interface PointLoad {
  technology: LoadTechnology
  lamps: number
  wattsEach: number
  dimmable: boolean
}

export interface DeviceRemark {
  severity: 'block' | 'warn'
  text: string
}

export function loadWatts(load: PointLoad): number {
  return load.lamps * load.wattsEach
}

/** Does this model suit this point? Blocks are refused, warnings are shown. */
export function judgeDevice(
  model: DeviceModel,
  load: PointLoad | null,
  context: { schemeId: string; controlLocations: number; neutralEstablished: boolean | null },
): DeviceRemark[] {
  const remarks: DeviceRemark[] = []
  const block = (text: string) => remarks.push({ severity: 'block', text })
  const warn = (text: string) => remarks.push({ severity: 'warn', text })
  if (!(model.schemes as string[]).includes(context.schemeId)) block('Its voltage range does not cover this supply.')
  if (load) {
    const watts = loadWatts(load)
    const limit = model.maxWatts[load.technology]
    const motor = load.technology === 'fan' || load.technology === 'motor'
    if (model.kind === 'dimmer' && (motor || load.technology === 'socket'))
      block(`A lamp dimmer never feeds a ${load.technology} (NEC 404.14(E)).`)
    else if (limit === 0 && model.kind !== 'companion') block(`It is not rated for a ${load.technology} load.`)
    else if (watts > limit && model.kind !== 'companion') block(`${watts} W is above its ${limit} W for ${load.technology}.`)
    if (watts < model.minWatts) warn(`${watts} W is below its minimum load of ${model.minWatts} W: expect flicker or glow when off.`)
    if (model.kind === 'dimmer' && !load.dimmable) warn('The lamps are not marked dimmable: expect flicker.')
  }
  if (context.controlLocations > 1 && model.multiWay === 'single')
    block(`This point is switched from ${context.controlLocations} places; the model works from one only.`)
  if (model.terminals.includes('neutral') && context.neutralEstablished === false)
    warn('It needs a neutral, and none is established in this box yet.')
  return remarks
}
