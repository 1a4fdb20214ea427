import type { TerminalKey } from '../../fit'
import type { FoundBox } from '../identify/found-box'
import type { Findings } from '../identify/identify'
import type { Part, Wiring } from '../model'
import type { TerminalModel } from '../terminal-model'
import { circuitsOf, outsideOf, type KnownCable, type LightLoad, type Outside } from './outside'
import type { WiringPlan } from './plan-schema'

export type { WiringPlan } from './plan-schema'

/** A device of the plan: a catalogue model, or a plain switch that stays. */
export interface PlannedDevice {
  gang: number
  name: string
  model: TerminalModel
}

/** Cables with their courses, as far as everything is established. Null: something is still open. */
export function knownCables(found: FoundBox, findings: Findings): KnownCable[] | null {
  if (findings.state !== 'open' || !findings.whole || !findings.best.length) return null
  // Spliced feeds are one metal: either may be taken for the one that brings the power.
  if (findings.wires.some((wire) => !wire.settled && !wire.joint)) return null
  return found.cables.map((cable, index) => {
    const { course, roles, circuits, far, firstTraveler } = findings.best[index]!
    return {
      id: cable.id,
      course,
      far,
      firstTraveler,
      wires: cable.cores.map((core, at) => ({ letter: core.letter, colour: core.colour, role: roles[at]!, circuit: circuits[at]! })),
    }
  })
}

export interface PlannedHome {
  wiring: Wiring
  outside: Outside
  devices: PlannedDevice[]
}
export const deviceId = (gang: number) => `gang${gang}`

/** The whole home as it will be when the plan is carried out. */
export function homeOf(found: FoundBox, cables: KnownCable[], plan: WiringPlan, devices: PlannedDevice[], loads: LightLoad[]): PlannedHome {
  const outside = outsideOf(cables, found.circuits[0]!, loads)
  const near = (name: string) => `${name}.near`
  const joins = [...outside.joins]
  for (const splice of plan.splices) joins.push(splice.letters.map(near))
  for (const device of plan.devices)
    for (const [name, letters] of Object.entries(device.terminals) as [TerminalKey, string[]][])
      if (letters.length) joins.push([`${deviceId(device.gang)}:${name}`, ...letters.map(near)])
  const parts: Part[] = devices.map((device) => ({ id: deviceId(device.gang), kind: 'device', model: device.model }))
  return {
    devices,
    outside,
    wiring: {
      hertz: found.nominalVolts < 160 ? 60 : 50,
      nominalVolts: found.nominalVolts,
      circuits: circuitsOf(found.circuits, found.nominalVolts),
      cables: cables.map((cable) => ({
        id: cable.id,
        metres: 10,
        cores: cable.wires.map((wire) => ({ id: wire.letter, colour: wire.colour })),
      })),
      joins,
      parts: [...parts, ...outside.parts],
      faults: [],
    },
  }
}

/**
 * A plan to begin with: every conductor on the terminal of its role, splices kept, spares capped.
 * The first device takes the first old switch's conductors, and so on.
 */
export function proposePlan(found: FoundBox, cables: KnownCable[], devices: PlannedDevice[]): WiringPlan {
  const wires = cables.flatMap((cable) => cable.wires.map((wire) => ({ ...wire, course: cable.course })))
  const roleOf = (one: string) => wires.find((wire) => wire.letter === one)!
  const splices = found.splices.map((letters) => ({ letters: [...letters], holds: null as number | null }))
  const spliceOf = (one: string) => splices.find((splice) => splice.letters.includes(one))
  const used = new Set<string>()
  const planned: WiringPlan['devices'] = []
  // One conductor of a joint stands for all of it: the pigtail goes into the same connector.
  const groundJoint = () => {
    const all = wires.filter((wire) => wire.role === 'ground')
    return (all.find((wire) => spliceOf(wire.letter)) ?? all[0])?.letter
  }
  // The neutral of the device's own circuit, never another one's.
  const neutralJoint = (circuit: string | null) => {
    const own = wires.filter((wire) => wire.role === 'neutral' && (circuit === null || wire.circuit === circuit))
    return (own.find((wire) => spliceOf(wire.letter)) ?? own[0])?.letter
  }
  devices.forEach((device, index) => {
    const old = found.oldSwitches[index]
    const on = (...names: string[]) => names.flatMap((name) => old?.terminals[name] ?? [])
    const all = old ? Object.values(old.terminals).flat() : wires.map((wire) => wire.letter)
    const take = (test: (role: string) => boolean, most = 1) =>
      all.filter((one) => test(roleOf(one).role) && !(used.has(one) && roleOf(one).role === 'load')).slice(0, most)
    const circuit = all.map(roleOf).find((wire) => wire.role === 'line')?.circuit ?? null
    const terminals: Partial<Record<TerminalKey, string[]>> = {}
    for (const name of device.model.terminals) {
      if (name === 'line') terminals.line = take((role) => role === 'line' || role === 'lineOn', 4)
      else if (name === 'load') terminals.load = take((role) => role === 'load')
      else if (name === 'common') terminals.common = on('common').length ? on('common') : take((role) => role === 'line' || role === 'load')
      else if (name === 'traveler1') terminals.traveler1 = on('t1')
      else if (name === 'traveler2') terminals.traveler2 = on('t2')
      else if (name === 'neutral' || name === 'ground') {
        const one = name === 'ground' ? groundJoint() : neutralJoint(circuit)
        if (one) terminals[name] = [one]
      }
    }
    for (const letters of Object.values(terminals)) for (const one of letters ?? []) used.add(one)
    planned.push({ gang: device.gang, terminals })
  })
  const placed = new Set([...used, ...splices.flatMap((splice) => splice.letters)])
  return { devices: planned, splices, capped: wires.map((wire) => wire.letter).filter((one) => !placed.has(one)) }
}
