import type { DeviceModel } from './device-schema'
import type { LoadTechnology } from './words'

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

/** Does it carry more than one load, each on a terminal of its own? */
export const hasChannels = ({ terminals }: Pick<DeviceModel, 'terminals'>): boolean =>
  terminals.some((terminal) => terminal === 'load2' || terminal === 'fan')

/**
 * Do these points together stay within what one channel of the model carries? Shares of each technology's limit add up.
 * A model of several channels is judged by channel, elsewhere.
 */
export function judgeTogether(model: DeviceModel, loads: PointLoad[]): DeviceRemark[] {
  const switchesItself = model.kind !== 'companion' && model.kind !== 'sender'
  if (loads.length < 2 || hasChannels(model) || !switchesItself) return []
  const share = loads.reduce((sum, load) => sum + loadWatts(load) / (model.maxWatts[load.technology] || Infinity), 0)
  const watts = loads.reduce((sum, load) => sum + loadWatts(load), 0)
  return share > 1
    ? [{ severity: 'block', text: `${loads.length} points on one device: ${watts} W together is above what it carries.` }]
    : []
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
    // A companion and a sender only speak to what carries the load.
    const switchesItself = model.kind !== 'companion' && model.kind !== 'sender'
    const motor = load.technology === 'fan' || load.technology === 'motor'
    if (model.kind === 'dimmer' && (motor || load.technology === 'socket'))
      block(`A lamp dimmer never feeds a ${load.technology} (NEC 404.14(E)).`)
    else if (limit === 0 && switchesItself) block(`It is not rated for a ${load.technology} load.`)
    else if (watts > limit && switchesItself) block(`${watts} W is above its ${limit} W for ${load.technology}.`)
    if (watts < model.minWatts) warn(`${watts} W is below its minimum load of ${model.minWatts} W: expect flicker or glow when off.`)
    if (model.kind === 'dimmer' && !load.dimmable) warn('The lamps are not marked dimmable: expect flicker.')
  }
  if (context.controlLocations > 1 && model.multiWay === 'single')
    block(`This point is switched from ${context.controlLocations} places; the model works from one only.`)
  if (model.terminals.includes('neutral') && context.neutralEstablished === false)
    warn('It needs a neutral, and none is established in this box yet.')
  return remarks
}
