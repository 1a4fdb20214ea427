import { schemeOf, supplySchemes } from '../../units/scheme'
import type { TerminalKey } from '../../fit'
import type { AsFoundBox } from '../identify/found-box'
import type { Findings } from '../identify/identify'
import { isNeutral } from '../identify/roles'
import { switchTerminals, type Part, type Point, type Wiring } from '../model'
import { loadTerminalOf, type TerminalModel } from '../terminal-model'
import { deviceId, oldSwitchId } from './plan-words'
import { lineAt, placeOf, rebuiltOutside, rolesInPlan, type FixtureRelay } from './other-locations'
import { circuitsOf, neutralSees, outsideOf, type KnownCable, type LightLoad, type Outside } from './outside'
import type { WiringPlan } from './plan-schema'

export type { WiringPlan } from './plan-schema'

export * from './plan-words'

/** A device of the plan: a catalogue model, or a plain switch that stays. */
export interface PlannedDevice {
  gang: number
  name: string
  model: TerminalModel
}

/** Cables with their runs, as far as everything is established. Null: something is still open. */
export const knownCables = (found: AsFoundBox, findings: Findings): KnownCable[] | null => knownWays(found, findings)?.[0] ?? null

/**
 * The likeliest arrangement, and the others that fit as well: spliced feeds are one metal, and no meter here tells which of them
 * brings the power. Null: something is still open.
 */
export function knownWays(found: AsFoundBox, findings: Findings): KnownCable[][] | null {
  if (findings.state !== 'open' || !findings.whole || !findings.best.length) return null
  if (findings.wires.some((wire) => !wire.settled && !wire.joint)) return null
  return [findings.best, ...findings.others].map((way) =>
    found.cables.map((cable, index) => {
      const { run, roles, circuits, far, firstTraveler, legs } = way[index]!
      return {
        id: cable.id,
        run,
        far,
        firstTraveler,
        legs,
        wires: cable.cores.map((core, at) => ({ letter: core.letter, colour: core.colour, role: roles[at]!, circuit: circuits[at]! })),
      }
    }),
  )
}

export interface PlannedHome {
  wiring: Wiring
  outside: Outside
  devices: PlannedDevice[]
  relays: FixtureRelay[]
}
/** An end of a plan as a point: a conductor's end here, or a terminal. */
export const planPoint = (end: string) => (end.includes(':') ? end : `${end}.near`)

/** What a plan lays in this box: points that become one, and the old switches that stay. */
export function laidIn(found: AsFoundBox, plan: WiringPlan): { joins: Point[][]; kept: Part[] } {
  const near = (name: string) => `${name}.near`
  const joins: Point[][] = []
  for (const splice of plan.splices) joins.push(splice.letters.map(near))
  for (const device of plan.devices)
    for (const [name, letters] of Object.entries(device.terminals) as [TerminalKey, string[]][])
      if (letters.length) joins.push([`${deviceId(device.gang)}:${name}`, ...letters.map(near)])
  const kept = plan.kept.flatMap((one): Part[] => {
    const contacts = found.oldSwitches[one.old - 1]?.contacts
    return contacts && contacts !== 'other' ? [{ id: oldSwitchId(one.old), kind: 'switch', contacts }] : []
  })
  for (const one of plan.kept)
    for (const [name, letters] of Object.entries(one.terminals))
      if (letters?.length) joins.push([`${oldSwitchId(one.old)}:${name}`, ...letters.map(near)])
  for (const jumper of plan.jumpers) joins.push([planPoint(jumper.from), planPoint(jumper.to)])
  return { joins, kept }
}

/** The whole home as it will be when the plan is carried out. */
export function homeOf(
  found: AsFoundBox,
  cables: KnownCable[],
  plan: WiringPlan,
  devices: PlannedDevice[],
  loads: LightLoad[],
): PlannedHome {
  const { outside, relays } = rebuiltOutside(outsideOf(cables, found.circuits[0]!, loads), plan, cables)
  const { joins, kept } = laidIn(found, plan)
  const parts: Part[] = devices.map((device) => ({ id: deviceId(device.gang), kind: 'device', model: device.model }))
  return {
    devices,
    outside,
    relays,
    wiring: {
      hertz: supplySchemes[schemeOf(found.nominalVolts)].frequencyHz,
      nominalVolts: found.nominalVolts,
      circuits: circuitsOf(found, cables),
      cables: cables.map((cable) => ({
        id: cable.id,
        metres: 10,
        cores: cable.wires.map((wire) => ({ id: wire.letter, colour: wire.colour })),
      })),
      joins: [...outside.joins, ...joins],
      parts: [...parts, ...kept, ...outside.parts],
      faults: [],
    },
  }
}

/** What a proposal has to know besides the box. */
export interface ProposalContext {
  loads: LightLoad[]
  /** What is chosen for the other location, if it is a device. */
  otherLocation?: 'companion' | 'partner' | null
  feeds?: WiringPlan['feeds']
}

/** What becomes of the other locations with these devices here. */
function proposeOtherLocations(cables: KnownCable[], devices: PlannedDevice[], context: ProposalContext): WiringPlan['elsewhere'] {
  if (!devices.length || devices.some(({ model }) => model.terminals.includes('traveler2'))) return []
  const listens = devices.some(({ model }) => model.inputs.length)
  const becomes = devices.every(({ model }) => model.signals === 'partner')
    ? ('partner' as const)
    : context.otherLocation === 'companion'
      ? ('companion' as const)
      : listens
        ? ('sensed' as const)
        : ('through' as const)
  return cables.flatMap((cable) => {
    const place = placeOf(cable)
    if (!place) return []
    const { far, through, sense, neutral } = place
    // A switch can be heard from where the line is; in the older way, and behind the load, only a wired companion can.
    const lineThere = lineAt(cable) !== null || ['farFeed', 'farFeedAndLight', 'farTravelersFromFeed', 'farReturn'].includes(cable.run)
    const here = becomes === 'sensed' && !lineThere ? 'through' : becomes
    return [{ far, becomes: here, through, sense: here === 'through' ? null : sense, neutral }]
  })
}

/**
 * A plan to begin with: every conductor on the terminal of its role, splices kept, spares capped.
 * The first device takes the first old switch's conductors, and so on; a module behind switches takes as many as it listens to.
 */
export function proposePlan(found: AsFoundBox, cables: KnownCable[], devices: PlannedDevice[], context: ProposalContext): WiringPlan {
  const elsewhere = proposeOtherLocations(cables, devices, context)
  const wires = rolesInPlan(cables, { elsewhere }, found.circuits[0]!)
  const roleOf = (one: string) => wires.find((wire) => wire.letter === one)!
  const motors = new Set(
    outsideOf(cables, found.circuits[0]!, context.loads)
      .lights.filter((light) => light.motor)
      .map((light) => light.letter),
  )
  // Conductors to the other location that mean something else now leave the joint they were in.
  const moved = (one: string) => roleOf(one).role !== cables.flatMap((cable) => cable.wires).find((wire) => wire.letter === one)!.role
  const rewired = wires.map((wire) => wire.letter).filter(moved)
  const mates = found.splices.filter((letters) => letters.some((one) => rewired.includes(one))).flat()
  let splices = found.splices
    .map((letters) => ({ letters: letters.filter((one) => !rewired.includes(one)), holds: null as number | null }))
    .filter((splice) => splice.letters.length > 1)
  const spliceOf = (one: string) => splices.find((splice) => splice.letters.includes(one))
  const used = new Set<string>()
  const planned: WiringPlan['devices'] = []
  const kept: WiringPlan['kept'] = []
  const jumpers: WiringPlan['jumpers'] = []
  const fixtureRelays: WiringPlan['fixtureRelays'] = []
  // One conductor of a joint stands for all of it: the pigtail goes into the same connector.
  const groundJoint = () => {
    const all = wires.filter((wire) => wire.role === 'ground')
    return (all.find((wire) => spliceOf(wire.letter)) ?? all[0])?.letter
  }
  // The neutral of the device's own circuit, never another one's.
  const neutralJoint = (circuit: string | null) => {
    const own = wires.filter((wire) => isNeutral(wire.role) && (circuit === null || neutralSees(wire).includes(circuit)))
    return (own.find((wire) => spliceOf(wire.letter)) ?? own[0])?.letter
  }
  let nextOld = 0
  devices.forEach((device, index) => {
    const { model } = device
    const left = found.oldSwitches.length - nextOld - (devices.length - index - 1)
    const mine = found.oldSwitches.slice(nextOld, nextOld + Math.max(0, Math.min(left, model.behindSwitch ? model.inputs.length || 1 : 1)))
    const first = nextOld + 1
    nextOld += mine.length
    const onOld = (names?: string[]) => [
      ...new Set(mine.flatMap((old) => (names ?? Object.keys(old.terminals)).flatMap((name) => old.terminals[name] ?? []))),
    ]
    const all = mine.length
      ? [...new Set([...onOld(), ...(elsewhere.length ? [...rewired, ...mates] : [])])]
      : wires.map((wire) => wire.letter)
    const take = (test: (role: string) => boolean, most = 1) =>
      all.filter((one) => test(roleOf(one).role) && !(used.has(one) && roleOf(one).role === 'load')).slice(0, most)
    const circuit = all.map(roleOf).find((wire) => wire.role === 'line')?.circuit ?? null
    // Never two circuits on one terminal.
    const lines = take((role) => role === 'line' || role === 'lineOn', 6)
      .filter((one) => roleOf(one).role !== 'line' || roleOf(one).circuit === circuit)
      .slice(0, 4)
    const terminals: Partial<Record<TerminalKey, string[]>> = {}
    const loads = take((role) => role === 'load', 6)
    if (model.signals === 'relays') {
      // The relay at the fixture switches: line and load are one here, for good.
      const joint = [...new Set([...lines, ...loads].flatMap((one) => spliceOf(one)?.letters ?? [one]))]
      if (joint.length > 1)
        splices = [...splices.filter((splice) => !splice.letters.some((one) => joint.includes(one))), { letters: joint, holds: null }]
      loads.forEach((letter, at) => {
        const input = model.inputs[at]
        if (input) fixtureRelays.push({ letter, gang: device.gang, input: input.terminal })
      })
    } else
      for (const motor of [true, false])
        for (const letter of loads.filter((one) => motors.has(one) === motor)) {
          const fits = Array.from({ length: model.channels }, (_, channel) => loadTerminalOf(model, channel)).filter(
            (name): name is TerminalKey => name !== null && !name.startsWith('traveler') && !terminals[name],
          )
          // A fan goes on the fan's terminal, where there is one.
          const name = fits.find((one) => (one === 'fan') === motor) ?? (motor && !model.terminals.includes('fan') ? fits[0] : undefined)
          if (name) terminals[name] = [letter]
        }
    for (const name of model.terminals) {
      if (name === 'line') terminals.line = lines
      else if (name === 'common')
        terminals.common = onOld(['common']).length ? onOld(['common']) : take((role) => role === 'line' || role === 'load')
      else if (name === 'traveler1' && model.terminals.includes('traveler2')) terminals.traveler1 = onOld(['t1'])
      else if (name === 'traveler2') terminals.traveler2 = onOld(['t2'])
      else if (name === 'neutral' || name === 'ground') {
        const one = name === 'ground' ? groundJoint() : neutralJoint(circuit)
        if (one) terminals[name] = [one]
      }
    }
    const free = [...model.inputs]
    if (model.behindSwitch)
      mine.forEach((old, at) => {
        const letters = Object.values(old.terminals).flat()
        const channel = Array.from({ length: model.channels }, (_, one) => one).find((one) =>
          terminals[loadTerminalOf(model, one)!]?.some((letter) => letters.includes(letter)),
        )
        const input = free.find((one) => one.channel === channel) ?? free[0]
        if (!input || old.contacts === 'other') return
        free.splice(free.indexOf(input), 1)
        const [from, to] = switchTerminals[old.contacts]
        const feed = input.return ? `${deviceId(device.gang)}:${input.return}` : lines[0]
        kept.push({ old: first + at, terminals: {} })
        if (feed) jumpers.push({ from: feed, to: `${oldSwitchId(first + at)}:${from}` })
        jumpers.push({ from: `${oldSwitchId(first + at)}:${to}`, to: `${deviceId(device.gang)}:${input.terminal}` })
      })
    const heard = take((role) => role === 'sense', 1)[0]
    if (heard && free[0]) terminals[free[0].terminal] = [heard]
    for (const letters of Object.values(terminals)) for (const one of letters ?? []) used.add(one)
    planned.push({ gang: device.gang, terminals })
  })
  const placed = new Set([...used, ...splices.flatMap((splice) => splice.letters)])
  return {
    devices: planned,
    splices,
    capped: wires.map((wire) => wire.letter).filter((one) => !placed.has(one)),
    kept,
    jumpers,
    elsewhere,
    fixtureRelays,
    feeds: context.feeds ?? [],
  }
}
