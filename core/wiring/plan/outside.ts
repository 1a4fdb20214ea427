import { schemeOf } from '../../units/scheme'
import type { AsFoundBox } from '../identify/found-box'
import { isNeutral, wholeChain, type RunKind, type WireRole } from '../identify/roles'
import type { Circuit, Part, Point } from '../model'

/** A cable whose run and roles are known. */
export interface KnownCable {
  id: string
  run: RunKind
  /** Which other switch it leads to, and the conductor that switch takes in its position 0. */
  far?: number | null
  firstTraveler?: string | null
  wires: { letter: string; colour: string; role: WireRole; circuit: string | null }[]
  /** Of a multi-wire feed: how its two lines stand to each other, as far as that was read. */
  legs?: 'apart' | 'together' | null
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
    if (cable.far === wholeChain) {
      // A 4-way, and the 3-way behind it.
      out.farSwitches.push('far0', 'far1')
      out.parts.push({ id: 'far0', kind: 'switch', contacts: 'fourWay' }, { id: 'far1', kind: 'switch', contacts: 'threeWay' })
      out.joins.push(['far0:b1', 'far1:t1'], ['far0:b2', 'far1:t2'])
      return { common: 'far1:common', t1: 'far0:a1', t2: 'far0:a2' }
    }
    const id = `far${cable.far ?? out.farSwitches.length}`
    out.farSwitches.push(id)
    out.parts.push({ id, kind: 'switch', contacts: 'threeWay' })
    return { common: `${id}:common`, t1: `${id}:t1`, t2: `${id}:t2` }
  }
  // In conduit the return of a light lies in a hole of its own.
  const lonelyReturn = cables.find(({ wires }) => wires.length === 1 && wires[0]!.role === 'neutralOn')?.wires[0]!.letter
  for (const cable of cables) {
    const of = (role: WireRole) => cable.wires.filter((wire) => wire.role === role).map((wire) => wire.letter)
    const circuit = cable.wires.find((wire) => wire.circuit !== null)?.circuit ?? usual
    const lines = cable.wires.flatMap((wire) => (wire.role === 'line' ? [wire.circuit ?? usual] : []))
    for (const wire of cable.wires) {
      if (wire.role === 'line') out.joins.push([far(wire.letter), `${wire.circuit ?? usual}.line`])
      if (wire.role === 'neutral') out.joins.push([far(wire.letter), `${wire.circuit ?? usual}.neutral`])
      if (wire.role === 'sharedNeutral') out.joins.push([far(wire.letter), ...lines.map((line) => `${line}.neutral`)])
      const supplied =
        cable.wires.some(({ role }) => role === 'line' || isNeutral(role)) ||
        ['farFeedAndLight', 'farTravelersFromFeed', 'farTravelersToLight'].includes(cable.run)
      if (wire.role === 'ground' && supplied) out.joins.push([far(wire.letter), 'earth'])
    }
    const first = (letters: string[]) => letters.sort((a, b) => Number(b === cable.firstTraveler) - Number(a === cable.firstTraveler))
    const [t1, t2] = first(of('traveler'))
    const [load] = of('load')
    const [on] = of('neutralOn')
    if (cable.run === 'twoPoleLoad') {
      const bulb = light(cable, load!)
      out.joins.push([far(load!), bulb.hot], [bulb.cold, far(of('load')[1]!)])
    } else if (['light', 'twoLights', 'loop', 'loopWithNeutral', 'doubleLoop', 'onwardAndLight'].includes(cable.run))
      for (const letter of of('load')) {
        const bulb = light(cable, letter)
        const back = on ?? (cable.wires.length === 1 ? lonelyReturn : undefined)
        out.joins.push([far(letter), bulb.hot], [bulb.cold, back ? far(back) : `${circuit}.neutral`])
      }
    else if (cable.run === 'farReturn') {
      const there = other(cable)
      out.joins.push([there.common, far(of('farCommon')[0]!)], [there.t1, far(t1!)], [there.t2, far(t2!)])
    } else if (['farLight', 'farLineAndLight', 'farTravelersToLight'].includes(cable.run)) {
      const there = other(cable)
      const bulb = light(cable, t1!)
      out.joins.push([there.t1, far(t1!)], [there.t2, far(t2!)], [there.common, bulb.hot], [bulb.cold, on ? far(on) : `${circuit}.neutral`])
    } else if (['farFeed', 'farFeedAndLight', 'farTravelersFromFeed'].includes(cable.run)) {
      const there = other(cable)
      out.joins.push([there.t1, far(t1!)], [there.t2, far(t2!)], [there.common, `${circuit}.line`])
      if (load) {
        const bulb = light(cable, load)
        out.joins.push([far(load), bulb.hot], [bulb.cold, `${circuit}.neutral`])
      }
    } else if (cable.run === 'farStraps' || cable.run === 'farStrapsEnd') {
      const there = other(cable)
      const ends = cable.run === 'farStraps' ? [...of('lineOn'), ...of('loadOn')] : [...of('line'), ...of('load')]
      const [a, b] = first(ends)
      out.joins.push([there.common, far(t1!)], [there.t1, far(a!)], [there.t2, far(b!)])
      if (load) {
        const bulb = light(cable, load)
        out.joins.push([far(load), bulb.hot], [bulb.cold, `${circuit}.neutral`])
      }
    } else if (cable.run === 'farCarter') {
      const there = other(cable)
      const bulb = light(cable, load!)
      const [a, b] = first([...of('lineOn'), on!])
      out.joins.push([far(load!), bulb.hot], [bulb.cold, there.common], [there.t1, far(a!)], [there.t2, far(b!)])
    }
  }
  return out
}

/** Circuits whose neutral a conductor is: one, or of a multi-wire feed both. */
export const neutralSees = (wire: { role: string; circuit: string | null; cable: KnownCable }): string[] =>
  wire.role === 'sharedNeutral' ? wire.cable.wires.flatMap(({ circuit }) => circuit ?? []) : wire.circuit ? [wire.circuit] : []

/**
 * Circuits as the supply brings them: the next one may be on the other leg (240 V between them), or at 230 V on another phase
 * (400 V); unless they were read to be on one.
 */
export function circuitsOf({ circuits, nominalVolts, guards, amps }: AsFoundBox, cables: KnownCable[]): Circuit[] {
  const together = cables.filter(({ legs }) => legs === 'together').map(({ wires }) => wires.flatMap(({ circuit }) => circuit ?? []))
  const degreesOf = (index: number) => (schemeOf(nominalVolts) === 'na120' ? (index % 2) * 180 : (index % 3) * 120)
  return circuits.map((id, index) => {
    const mate = together.find((pair) => pair.includes(id))?.map((one) => circuits.indexOf(one)) ?? [index]
    return {
      id,
      volts: nominalVolts,
      degrees: degreesOf(Math.min(...mate)),
      amps: amps?.[id] ?? 15,
      guard: guards?.[id] ?? 'none',
    }
  })
}
