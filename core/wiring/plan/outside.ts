import type { FoundBox } from '../identify/found-box'
import type { Course, WireRole } from '../identify/roles'
import type { Circuit, Part, Point } from '../model'

/** A cable whose course and roles are known. */
export interface KnownCable {
  id: string
  course: Course
  /** Which other switch it leads to, and the conductor that switch takes in its position 0. */
  far?: number | null
  firstTraveler?: string | null
  wires: { letter: string; colour: string; role: WireRole; circuit: string | null }[]
}
export interface LightLoad {
  technology: 'led' | 'filament' | 'fan' | 'motor'
  watts: number
  /** The conductor that feeds it, when that is known; else the loads follow the order of the cables. */
  letter?: string
}
/** What lies outside of the box: parts, joints, and the lights it found, each with the conductor that feeds it. */
export interface Outside {
  parts: Part[]
  joins: Point[][]
  lights: { id: string; name: string; letter: string; motor?: boolean }[]
  /** Other switches, as parts. */
  farSwitches: string[]
}

/**
 * Builds what hangs on the far ends of the cables.
 * @param usual circuit of a light that is fed elsewhere, when its cable names none
 */
export function outsideOf(cables: KnownCable[], usual: string, loads: LightLoad[]): Outside {
  const out: Outside = { parts: [], joins: [], lights: [], farSwitches: [] }
  const far = (letter: string): Point => `${letter}.far`
  const light = (cable: KnownCable, letter: string) => {
    const index = out.lights.length
    const load = loads.find((one) => one.letter === letter) ??
      loads.filter((one) => !one.letter)[index] ??
      loads[0] ?? { technology: 'led', watts: 9 }
    const id = `light${index + 1}`
    const { technology, watts } = load
    const motor = technology === 'fan' || technology === 'motor'
    out.lights.push({ id, name: cable.id, letter, motor })
    out.parts.push(
      technology === 'fan' || technology === 'motor' ? { id, kind: 'motor', watts } : { id, kind: 'lamp', lamp: technology, watts },
    )
    return { hot: `${id}:hot`, cold: `${id}:cold` }
  }
  const other = (cable: KnownCable) => {
    const id = `far${cable.far ?? out.farSwitches.length}`
    out.farSwitches.push(id)
    out.parts.push({ id, kind: 'switch', contacts: 'threeWay' })
    return { common: `${id}:common`, t1: `${id}:t1`, t2: `${id}:t2` }
  }
  for (const cable of cables) {
    const of = (role: WireRole) => cable.wires.filter((wire) => wire.role === role).map((wire) => wire.letter)
    const circuit = cable.wires.find((wire) => wire.circuit !== null)?.circuit ?? usual
    for (const wire of cable.wires) {
      if (wire.role === 'line' && !['farFeed', 'farFeedAndLight', 'farTravelersFromFeed'].includes(cable.course))
        out.joins.push([far(wire.letter), `${wire.circuit ?? usual}.line`])
      if (wire.role === 'neutral') out.joins.push([far(wire.letter), `${wire.circuit ?? usual}.neutral`])
      const supplied =
        cable.wires.some(({ role }) => role === 'line' || role === 'neutral') ||
        ['farFeedAndLight', 'farTravelersFromFeed', 'farTravelersToLight'].includes(cable.course)
      if (wire.role === 'ground' && supplied) out.joins.push([far(wire.letter), 'earth'])
    }
    const [t1, t2] = of('traveler').sort((a, b) => Number(b === cable.firstTraveler) - Number(a === cable.firstTraveler))
    const [load] = of('load')
    const [on] = of('neutralOn')
    if (['light', 'twoLights', 'loop', 'loopWithNeutral', 'doubleLoop'].includes(cable.course))
      for (const letter of of('load')) {
        const bulb = light(cable, letter)
        out.joins.push([far(letter), bulb.hot], [bulb.cold, on ? far(on) : `${circuit}.neutral`])
      }
    else if (cable.course === 'farReturn') {
      const there = other(cable)
      out.joins.push([there.common, far(of('farCommon')[0]!)], [there.t1, far(t1!)], [there.t2, far(t2!)])
    } else if (['farLight', 'farLineAndLight', 'farTravelersToLight'].includes(cable.course)) {
      const there = other(cable)
      const bulb = light(cable, t1!)
      out.joins.push([there.t1, far(t1!)], [there.t2, far(t2!)], [there.common, bulb.hot], [bulb.cold, on ? far(on) : `${circuit}.neutral`])
    } else if (['farFeed', 'farFeedAndLight', 'farTravelersFromFeed'].includes(cable.course)) {
      const there = other(cable)
      out.joins.push([there.t1, far(t1!)], [there.t2, far(t2!)], [there.common, `${circuit}.line`])
      if (load) {
        const bulb = light(cable, load)
        out.joins.push([far(load), bulb.hot], [bulb.cold, `${circuit}.neutral`])
      }
    } else if (cable.course === 'farOlder') {
      const there = other(cable)
      const bulb = light(cable, load!)
      out.joins.push([far(load!), bulb.hot], [bulb.cold, there.common], [there.t1, far(of('lineOn')[0]!)], [there.t2, far(on!)])
    }
  }
  return out
}

/** Circuits as the supply brings them: the next one may be on the other leg (240 V between them), or at 230 V on another phase (400 V). */
export const circuitsOf = ({ circuits, nominalVolts, guards, amps }: FoundBox): Circuit[] =>
  circuits.map((id, index) => ({
    id,
    volts: nominalVolts,
    degrees: nominalVolts < 160 ? (index % 2) * 180 : (index % 3) * 120,
    amps: amps?.[id] ?? 15,
    guard: guards?.[id] ?? 'none',
  }))
