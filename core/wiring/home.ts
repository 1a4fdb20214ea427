import { complex, magnitude, subtract, type Complex } from './circuit/complex-lu'
import { solveNetwork, type Element, type Network, type Solution } from './circuit/network'
import { far, joinsWithFaults, near, switchContacts, terminal, Ties, type Part, type Point, type Setting, type Wiring } from './model'
import { isChangeover } from './terminal-model'

/** Capacitance between two conductors of one cable, farads per metre: usual flat cable, from memory. */
const faradsPerMetre = 60e-12
/** Resistance of a supply up to the box, and of a circuit's neutral back to the panel, ohms: usual sizes, no source. */
const supplyOhms = 0.25
const returnOhms = 0.05
/** Meters: a high-impedance one takes 10 MΩ; low-impedance ones some kΩ; the switch input of a device in between (common practice, no source). */
export const meterOhms = { high: 10e6, low: 4e3, input: 100e3 } as const
/** Electronics wake from this share of their voltage (from memory). */
const wakeShare = 0.6
/** Fed through the load it wakes from less: a lamp keeps up to half of the voltage for itself (from memory). */
const wakeShareThroughLoad = 0.3
/** Instantaneous trip: five times the rating and more (IEC 60898 type B trips between 3 and 5 times; from memory). */
const instantTrip = 5
/** A residual-current device for persons trips from 30 mA at the latest (IEC 61008; from memory), a GFCI from 6 mA (UL 943; from memory). */
export const residualTripAmps = 0.03
const mostRounds = 12
const coldShare = 1 / 12

export type Light = 'on' | 'dim' | 'glow' | 'off'
export interface Trip {
  circuitId: string
  why: 'short' | 'overload' | 'residual'
}
export type HomeAnswer = { ok: true; home: HomeSolution } | { ok: false; code: 'didNotSettle' | 'singular'; sentence: string }

/** Impedance of a load at its rated voltage, as an element. */
function loadElement(part: Extract<Part, { kind: 'lamp' | 'motor' }>, wiring: Wiring, a: number, b: number, cold: boolean): Element {
  const square = wiring.nominalVolts ** 2
  if (part.kind === 'motor') {
    // A small motor's power factor is about 0.8 (from memory).
    const size = (square * 0.8) / part.watts
    return { id: part.id, kind: 'coil', a, b, ohms: size * 0.8, henries: (size * 0.6) / (2 * Math.PI * Math.max(1, wiring.hertz)) }
  }
  // Cold, a filament has about a twelfth of its lit resistance (tungsten at 20 against 2,500 degrees; from memory).
  if (part.lamp === 'filament') return { id: part.id, kind: 'resistor', a, b, ohms: (square / part.watts) * (cold ? coldShare : 1) }
  // An LED lamp: dark and nearly open below half of the peak voltage (common practice, no source). At 0.5 a dead zone lets 0.391
  // of the sine through, which is arithmetic.
  return {
    id: part.id,
    kind: 'clamped',
    a,
    b,
    thresholdPeakVolts: 0.5 * Math.SQRT2 * wiring.nominalVolts,
    leakOhms: 1e6,
    onOhms: (0.391 * square) / part.watts,
  }
}

/** One state of the home, solved. */
export class HomeSolution {
  constructor(
    readonly wiring: Wiring,
    readonly setting: Setting,
    private readonly ties: Ties,
    private readonly nodes: Map<number, number>,
    private readonly solution: Solution,
    private readonly poweredParts: Map<string, boolean>,
  ) {}
  node(point: Point): number {
    return this.nodes.get(this.ties.find(point)) ?? 0
  }
  /** Are two points one metal? */
  touching(a: Point, b: Point): boolean {
    return this.ties.same(a, b)
  }
  voltage(a: Point, b: Point): Complex {
    return this.solution.between(this.node(a), this.node(b))
  }
  /** Volts a meter shows between two points. */
  metered(a: Point, b: Point, meter: keyof typeof meterOhms): number {
    return this.solution.metered(this.node(a), this.node(b), meterOhms[meter])
  }
  /** A non-contact tester lights on anything that swings against earth, ghosts included. It proves nothing. */
  contactless(point: Point): boolean {
    return magnitude(this.voltage(point, 'earth')) >= 0.4 * this.wiring.nominalVolts
  }
  private element(id: string): Element {
    return this.solution.network.elements.find((element) => element.id === id)!
  }
  private amps(id: string): Complex {
    return this.solution.through(this.element(id))
  }
  watts(partId: string): number {
    const element = this.element(partId)
    const volts = this.solution.between(element.a, element.b)
    const amps = this.solution.through(element)
    return volts.re * amps.re + volts.im * amps.im
  }
  /** What one sees of a lamp or motor: half of its watts pass for on, a fiftieth for dim, less for a glow. Common practice, no source. */
  light(partId: string): Light {
    const part = this.wiring.parts.find((run) => run.id === partId) as Extract<Part, { kind: 'lamp' | 'motor' }>
    const share = this.watts(partId) / part.watts
    return share >= 0.5 ? 'on' : share >= 0.02 ? 'dim' : share >= 0.0005 ? 'glow' : 'off'
  }
  powered(partId: string): boolean {
    return this.poweredParts.get(partId) ?? false
  }
  lineAmps(circuitId: string): Complex {
    return this.setting.closed.includes(circuitId) ? subtract(complex(0), this.amps(`source ${circuitId}`)) : complex(0)
  }
  neutralAmps(circuitId: string): Complex {
    return this.amps(`return ${circuitId}`)
  }
  /** Current that leaves by a circuit's line and does not come back by its own neutral, amperes. */
  residualAmps(circuitId: string): number {
    return magnitude(subtract(this.lineAmps(circuitId), this.neutralAmps(circuitId)))
  }
  trips(): Trip[] {
    return this.wiring.circuits.flatMap((circuit): Trip[] => {
      if (!this.setting.closed.includes(circuit.id)) return []
      const amps = magnitude(this.lineAmps(circuit.id))
      if (amps >= instantTrip * circuit.amps) return [{ circuitId: circuit.id, why: 'short' }]
      if (amps > circuit.amps) return [{ circuitId: circuit.id, why: 'overload' }]
      if (circuit.guard !== 'none' && this.residualAmps(circuit.id) >= residualTripAmps) return [{ circuitId: circuit.id, why: 'residual' }]
      return []
    })
  }
}

/** What is one metal in every state of a wiring, and the cores that are open or bad. A wiring is never changed, only replaced. */
function standing(wiring: Wiring) {
  const ties = new Ties()
  for (const join of joinsWithFaults(wiring)) for (const point of join.slice(1)) ties.tie(join[0]!, point)
  const opened = new Map(
    wiring.faults.flatMap((fault) => (fault.kind === 'open' || fault.kind === 'highResistance' ? [[fault.coreId, fault]] : [])),
  )
  for (const cable of wiring.cables) for (const core of cable.cores) if (!opened.has(core.id)) ties.tie(near(core.id), far(core.id))
  return { ties, opened }
}
const knownStanding = new WeakMap<Wiring, ReturnType<typeof standing>>()
function standingOf(wiring: Wiring) {
  let known = knownStanding.get(wiring)
  if (!known) knownStanding.set(wiring, (known = standing(wiring)))
  return known
}

/** The network of one state; relays as given. Points of one metal become one node, earth is node 0. */
function build(wiring: Wiring, setting: Setting, awake: Map<string, boolean>) {
  const always = standingOf(wiring)
  const ties = always.ties.copy()
  const welded = (id: string) => wiring.faults.some((fault) => fault.kind === 'welded' && fault.partId === id)
  for (const part of wiring.parts) {
    const position = setting.positions[part.id] ?? 0
    if (part.kind === 'switch') {
      // Worn out: it closes nothing.
      if (wiring.faults.some((fault) => fault.kind === 'deadPart' && fault.partId === part.id)) continue
      for (const [a, b] of switchContacts(part.contacts, welded(part.id) ? 1 : position))
        ties.tie(terminal(part.id, a), terminal(part.id, b))
    } else if (part.kind === 'device') {
      for (const contact of part.model.contacts) {
        const told = (position >> contact.channel) & 1
        // A changeover relay keeps its place without power; a plain one drops out.
        const now = welded(part.id) ? 1 : isChangeover(part.model) || awake.get(part.id) ? told : 0
        if (now === contact.when) ties.tie(terminal(part.id, contact.from), terminal(part.id, contact.to))
      }
    }
  }
  const nodes = new Map<number, number>([[ties.find('earth'), 0]])
  const node = (point: Point) => {
    const root = ties.find(point)
    const known = nodes.get(root)
    if (known !== undefined) return known
    nodes.set(root, nodes.size)
    return nodes.size - 1
  }
  const elements: Element[] = []
  for (const circuit of wiring.circuits) {
    if (setting.closed.includes(circuit.id))
      elements.push({
        id: `source ${circuit.id}`,
        kind: 'source',
        a: node(`${circuit.id}.line`),
        b: 0,
        volts: circuit.volts,
        degrees: circuit.degrees,
        ohms: supplyOhms,
      })
    else node(`${circuit.id}.line`)
    elements.push({ id: `return ${circuit.id}`, kind: 'resistor', a: node(`${circuit.id}.neutral`), b: 0, ohms: returnOhms })
  }
  for (const cable of wiring.cables) {
    cable.cores.forEach((core, index) => {
      const fault = always.opened.get(core.id)
      if (fault?.kind === 'highResistance')
        elements.push({ kind: 'resistor', a: node(near(core.id)), b: node(far(core.id)), ohms: fault.ohms })
      for (const other of cable.cores.slice(index + 1))
        elements.push({
          kind: 'capacitor',
          a: node(near(core.id)),
          b: node(near(other.id)),
          farads: faradsPerMetre * cable.metres,
        })
      node(far(core.id))
    })
  }
  for (const part of wiring.parts) {
    const at = (name: string) => node(terminal(part.id, name))
    const broken = wiring.faults.some((fault) => fault.kind === 'deadPart' && fault.partId === part.id)
    if (part.kind === 'lamp' || part.kind === 'motor')
      elements.push(
        broken
          ? { id: part.id, kind: 'resistor', a: at('hot'), b: at('cold'), ohms: 1e9 }
          : loadElement(part, wiring, at('hot'), at('cold'), setting.closed.length === 0),
      )
    else if (part.kind === 'device') {
      const { supply, throughLoad } = part.model
      for (const name of part.model.terminals) at(name)
      if (supply && !broken)
        for (const from of supply.from)
          elements.push({
            kind: 'resistor',
            a: at(from),
            b: at(supply.to),
            ohms: (wiring.nominalVolts ** 2 / supply.watts) * supply.from.length,
          })
      throughLoad?.to.forEach((to, channel) => {
        const on = welded(part.id) || (awake.get(part.id) && ((setting.positions[part.id] ?? 0) >> channel) & 1)
        elements.push({
          kind: 'resistor',
          a: at(throughLoad.from),
          b: at(to),
          ohms: on ? 0.5 : (wiring.nominalVolts * 1000) / throughLoad.milliamps,
        })
      })
    }
  }
  for (const join of wiring.joins) for (const point of join) node(point)
  const network: Network = { nodes: nodes.size, hertz: wiring.hertz, elements }
  return { ties, nodes, network }
}

/** Does the electronics of a device have its power in this solution? */
function hasPower(part: Extract<Part, { kind: 'device' }>, home: HomeSolution, wasAwake: boolean): boolean {
  const { supply, throughLoad } = part.model
  const at = (name: string) => terminal(part.id, name)
  const volts = (from: string, to: string) => magnitude(home.voltage(at(from), at(to)))
  if (supply) return supply.from.some((from) => volts(from, supply.to) >= wakeShare * home.wiring.nominalVolts)
  if (!throughLoad) return true
  return throughLoad.to.some((to, channel) => {
    const on = wasAwake && ((home.setting.positions[part.id] ?? 0) >> channel) & 1
    const across = volts(throughLoad.from, to)
    // On, it lives from the current of the load; off, from the voltage the load leaves it.
    return on ? across / 0.5 >= throughLoad.milliamps / 1000 : across >= wakeShareThroughLoad * home.wiring.nominalVolts
  })
}

/**
 * Solves one state of a home: relays that have no power drop out, lamps settle.
 * @returns the solution, or why there is none
 */
export function solveHome(wiring: Wiring, setting: Setting): HomeAnswer {
  const devices = wiring.parts.filter((part): part is Extract<Part, { kind: 'device' }> => part.kind === 'device')
  const dead = new Set(wiring.faults.flatMap((fault) => (fault.kind === 'deadPart' ? [fault.partId] : [])))
  // Power has just come back: every relay is open until its electronics wakes.
  const awake = new Map(devices.map((part) => [part.id, false]))
  for (let round = 0; round < mostRounds; round++) {
    const { ties, nodes, network } = build(wiring, setting, awake)
    const answer = solveNetwork(network)
    if (!answer.ok) return answer
    const home = new HomeSolution(wiring, setting, ties, nodes, answer.solution, awake)
    const now = new Map(devices.map((part) => [part.id, !dead.has(part.id) && hasPower(part, home, awake.get(part.id)!)]))
    const changed = devices.filter(({ id }) => now.get(id) !== awake.get(id))
    // A short takes the voltage away from the relay that closed on it, but the breaker is quicker than a relay that drops out.
    const shorted = changed.some(({ id }) => awake.get(id)) && home.trips().some((trip) => trip.why === 'short')
    if (!changed.length || shorted) return { ok: true, home }
    for (const { id } of changed) awake.set(id, now.get(id)!)
  }
  return { ok: false, code: 'didNotSettle', sentence: 'A device switches its own power away and starts again: it will chatter.' }
}

/** A home after its breakers had time to trip. */
export interface AfterTrips {
  /** Circuits whose breaker tripped, in the order of the wiring. */
  trips: string[]
  /** As it then stands; null: it does not settle. */
  home: HomeSolution | null
}
/**
 * Breakers trip until none has a reason to; what hangs on the others goes on. Of several with the same reason the quicker one
 * may take it from the others, so there can be several ends.
 * @param home a solved state in which nothing has tripped yet
 * @returns every end, each set of breakers once; first the one in which all that have a reason trip together
 */
export function afterTrips(home: HomeSolution): AfterTrips[] {
  const ends = new Map<string, AfterTrips>()
  const go = (now: HomeSolution | null, trips: string[]): void => {
    const due = now?.trips().map((trip) => trip.circuitId) ?? []
    if (!due.length) {
      const inOrder = home.setting.closed.filter((id) => trips.includes(id))
      if (!ends.has(inOrder.join())) ends.set(inOrder.join(), { trips: inOrder, home: now })
      return
    }
    for (const quick of due.length > 1 ? [due, ...due.map((id) => [id])] : [due]) {
      const tripped = [...trips, ...quick]
      const answer = solveHome(home.wiring, { ...home.setting, closed: home.setting.closed.filter((id) => !tripped.includes(id)) })
      go(answer.ok ? answer.home : null, tripped)
    }
  }
  go(home, [])
  return [...ends.values()]
}
/** Every breaker is closed: what comes of it. A home that does not settle has one end, in which it does not. */
export function closeEverything(wiring: Wiring, positions: Record<string, number>): AfterTrips[] {
  const answer = solveHome(wiring, { closed: wiring.circuits.map((circuit) => circuit.id), positions })
  return answer.ok ? afterTrips(answer.home) : [{ trips: [], home: null }]
}

/** What a continuity tester shows between any two points of one state, ohms: every breaker open, direct current. Infinity: open. */
export function continuityMeter(wiring: Wiring, positions: Record<string, number>): (a: Point, b: Point) => number {
  const { ties, nodes, network } = build(wiring, { closed: [], positions }, new Map())
  const answer = solveNetwork({ ...network, hertz: 0 })
  return (a, b) => {
    if (ties.same(a, b)) return 0
    const from = nodes.get(ties.find(a))
    const to = nodes.get(ties.find(b))
    if (!answer.ok || from === undefined || to === undefined) return Infinity
    const ohms = answer.solution.impedance(from, to).re
    return ohms > 2e7 ? Infinity : ohms
  }
}
